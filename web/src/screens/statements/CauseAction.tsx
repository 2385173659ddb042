import type { Explanation, MoveStatementLines, Statement } from '@zubrell/contract/statements';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { linesApi } from '../../api/lines.ts';
import { statementsApi } from '../../api/statements.ts';
import { countLines } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';

/** What settles a cause, as one press. */
export function CauseAction({
  statement,
  cause,
  isMain,
}: {
  readonly statement: Statement;
  readonly cause: Explanation['causes'][number];
  readonly isMain: boolean;
}) {
  const { booksId, setup, amount, currency } = useBooks();
  const { told } = useUndo();
  const [settle, { isLoading: isSettling }] = statementsApi.useSettleCauseMutation();
  const [move, { isLoading: isMoving }] = statementsApi.useMoveStatementLinesMutation();
  const [change, { isLoading: isChanging }] = statementsApi.useChangeStatementMutation();
  const [reopen, { isLoading: isReopening }] = linesApi.useReopenLinesMutation();
  const isBusy = isSettling || isMoving || isChanging || isReopening;
  const { bankAccountId, to, seenStep, before } = statement;
  const [lineId = '', copyOf = ''] = cause.lineIds;
  const of = { booksId, bankAccountId };
  const variant = isMain ? 'main' : 'plain';
  if (setup.books.role === 'reviewer') return null;

  const press = (label: string, does: () => Promise<unknown>) => (
    <Button variant={variant} size="sm" disabled={isBusy} onClick={() => void does()}>
      {label}
    </Button>
  );
  switch (cause.kind) {
    case 'sameTwice':
      return press(t`Exclude the second copy`, async () =>
        told(await settle({ ...of, kind: 'excludeCopy', lineId, copyOf, seenStep })),
      );
    case 'announcedBooked':
      return cause.lineIds.length === 0 ? (
        <Link className={`btn btn-${variant} btn-sm`} to={`/books/${booksId}/intake`}>
          {t`Fetch the feed again`}
        </Link>
      ) : (
        press(t`Exclude announced line`, async () =>
          told(await settle({ ...of, kind: 'excludeCopy', lineId, copyOf, seenStep })),
        )
      );
    case 'signTurned':
    case 'digitsSwapped': {
      const right = cause.instead ?? 0;
      return press(t`Replace by ${amount(right, { plus: true })}`, async () =>
        told(await settle({ ...of, kind: 'replace', lineId, amount: right, seenStep })),
      );
    }
    case 'keptOut':
      return press(t`Restore line`, async () =>
        told(await reopen({ booksId, target: { lineIds: [lineId] }, seenStep })),
      );
    case 'overEdge': {
      const { label, into } = edgeMove(cause);
      return press(label, async () =>
        told(await move({ ...of, to, lineIds: [...cause.lineIds], into })),
      );
    }
    case 'closingMistyped':
      return press(t`Change closing balance to ${amount(cause.instead ?? 0)}`, async () => {
        return told(await change({ ...of, to, closing: { amount: cause.instead ?? 0, currency } }));
      });
    case 'opening':
      return before === null ? null : (
        <Link
          className={`btn btn-${variant} btn-sm`}
          to={`/books/${booksId}/statements/${bankAccountId}/${before.to}`}
        >
          {t`Open the statement before`}
        </Link>
      );
    case 'lineMissing':
      return (
        <Link className={`btn btn-${variant} btn-sm`} to={`/books/${booksId}/intake`}>
          {t`Fetch or import those days`}
        </Link>
      );
  }
}

/** Where lines at the edge of a statement go, and how that is said. */
function edgeMove({
  move,
  lineIds: { length: count },
}: Explanation['causes'][number]): Pick<MoveStatementLines, 'into'> & { readonly label: string } {
  const lines = countLines(count);
  switch (move) {
    case 'toNext':
      return { label: t`Move ${lines} to the next statement`, into: 'next' };
    case 'toPrevious':
      return { label: t`Move ${lines} to the previous statement`, into: 'previous' };
    default:
      return { label: t`Move ${lines} into this statement`, into: 'here' };
  }
}
