import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { linesApi } from '../../api/lines.ts';
import { counted } from '../../app/formats.ts';
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
      <EmptyState title={t`No lines yet`}>
        <p>{t`Import a bank file or connect a feed to see its lines here.`}</p>
        <Link className="btn btn-main" to={`/books/${booksId}/intake`}>
          {t`Import a file`}
        </Link>
      </EmptyState>
    );
  }
  if (search !== '') {
    return (
      <EmptyState title={t`Nothing here says “${search}”`}>
        <Button variant="plain" onClick={() => change({ q: null })}>
          {t`Show all`}
        </Button>
      </EmptyState>
    );
  }
  const next = (['ready', 'check', 'blank'] as const).find(
    (each) => each !== lane && (counts?.[each] ?? 0) > 0,
  );
  return (
    <EmptyState title={lane === 'decided' ? t`Nothing decided yet` : t`This lane is empty`}>
      {next ? (
        <Button variant="main" onClick={() => change({ lane: next })}>
          {t`${counted(counts?.[next] ?? 0, 'waits', 'wait')} in ${next === 'blank' ? t`Blank` : next === 'check' ? t`Check` : t`Ready`}`}
        </Button>
      ) : (
        <p>{t`No lines are open here. The proof below shows whether the balance agrees.`}</p>
      )}
    </EmptyState>
  );
}
