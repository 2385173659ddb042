import { counted } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { linesApi } from '../../api/lines.ts';
import { useBooks } from '../../app/useBooks.ts';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { useDeskScope } from './useDeskScope.ts';

/** What an empty lane says: how that came, and where to go on. */
export function DeskEmpty() {
  const { booksId, setup } = useBooks();
  const { scope, lane, search, change } = useDeskScope();
  const { data: counts } = linesApi.useLanesQuery({ booksId, ...scope });
  if (setup.bankAccounts.every((bank) => bank.firstDate === null)) {
    return (
      <EmptyState title="No lines yet">
        <p>Import a bank file or connect a feed to see its lines here.</p>
        <Link className="btn btn-main" to={`/books/${booksId}/intake`}>
          Import a file
        </Link>
      </EmptyState>
    );
  }
  if (search !== '') {
    return (
      <EmptyState title={`Nothing here says “${search}”`}>
        <Button variant="plain" onClick={() => change({ q: null })}>
          Show all
        </Button>
      </EmptyState>
    );
  }
  const next = (['ready', 'check', 'blank'] as const).find(
    (each) => each !== lane && (counts?.[each] ?? 0) > 0,
  );
  return (
    <EmptyState title={lane === 'decided' ? 'Nothing decided yet' : 'This lane is empty'}>
      {next ? (
        <Button variant="main" onClick={() => change({ lane: next })}>
          {counted(counts?.[next] ?? 0, 'waits', 'wait')} in{' '}
          {next === 'blank' ? 'Blank' : next === 'check' ? 'Check' : 'Ready'}
        </Button>
      ) : (
        <p>No lines are open here. The proof below shows whether the balance agrees.</p>
      )}
    </EmptyState>
  );
}
