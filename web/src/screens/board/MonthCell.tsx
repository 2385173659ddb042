import type { BoardCell } from '@zubrell/contract/board';
import type { BankAccountId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { Link } from 'react-router';
import { useBooks } from '../../app/useBooks.ts';

/** A month of a bank account: how much is open and unexplained. Leads to the Desk in that scope. */
export function MonthCell({
  bankAccountId,
  cell,
}: {
  readonly bankAccountId: BankAccountId;
  readonly cell: BoardCell;
}) {
  const { booksId, amount } = useBooks();
  const { month, lines, open, ready, unexplained, isClosed } = cell;
  if (isClosed && open === 0 && !unexplained) {
    return <td className="closed">{lines > 0 && t`✓ closed`}</td>;
  }
  if (lines === 0 && !unexplained) return <td className="quiet">{t`no lines`}</td>;
  const done = lines === 0 ? 100 : Math.floor((100 * (lines - open)) / lines);
  const lane = open === 0 ? 'decided' : ready > 0 ? 'ready' : 'check';
  return (
    <td className={open > 0 ? 'under-way' : ''}>
      <Link to={`/books/${booksId}/desk?account=${bankAccountId}&period=${month}&lane=${lane}`}>
        <span className="board-open">
          <b>{t`${open} open`}</b>
          <span className="quiet">{done} %</span>
        </span>
        <span className="board-bar" aria-hidden>
          <i style={{ width: `${done}%` }} />
        </span>
        {unexplained === null ? (
          <span className="quiet">{t`no balance stated`}</span>
        ) : (
          <span className={unexplained === 0 ? 'quiet' : 'trouble'}>
            {t`unexplained ${amount(unexplained)}`}
          </span>
        )}
      </Link>
    </td>
  );
}
