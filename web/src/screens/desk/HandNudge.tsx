import type { BooksSetup } from '@zubrell/contract/books';
import type { DraftCoding } from '@zubrell/contract/coding';
import type { DismissedNudges } from '@zubrell/contract/desk';
import { nudgeOfCoding } from '@zubrell/core/propose/nudge/nudgeOfCoding';
import type { NudgeBooks } from '@zubrell/core/propose/nudge/nudgeProposal';
import { proposedCoding } from '@zubrell/core/propose/proposal';
import { doubtWords } from '@zubrell/core/propose/words';
import { linesApi } from '../../api/lines.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Moon } from '../../ui/Moon.tsx';
import { NudgeActions, type OpenRow } from './NudgeActions.tsx';
import { completeCoding } from './rows.ts';
import { useRowCoding } from './useRow.ts';

/** What a coding typed by hand is asked about, as a proposal would be. It keeps nobody from posting. */
export function HandNudge({ row }: { readonly row: OpenRow }) {
  const { booksId, setup, accountName } = useBooks();
  const coding = useRowCoding(row);
  const { data } = linesApi.useDismissedNudgesQuery(booksId);
  const nudge = data ? handNudge(row, coding, nudgeBooks(setup, data), setup) : null;
  if (nudge === null) return null;
  return (
    <p className="hand-nudge" role="status">
      <Moon kind="check" />
      <span>
        {doubtWords(nudge, accountName)}
        <NudgeActions doubt={nudge} row={row} payeeId={coding.payeeId} />
      </span>
    </p>
  );
}

/** The question, where the account was typed and not proposed. */
function handNudge(row: OpenRow, typed: DraftCoding, books: NudgeBooks, setup: BooksSetup) {
  const { proposal } = row.kind === 'line' ? row.line : row.stack;
  if (typed.parts !== null) return null;
  if (typed.accountId === proposedCoding(proposal)?.parts[0]?.accountId) return null;
  const complete = completeCoding(typed, setup);
  if ('missing' in complete) return null;
  return nudgeOfCoding(nudgedLine(row), complete.coding, books);
}

/** What of a row can be asked about; of a stack its largest line counts. */
function nudgedLine(row: OpenRow) {
  const nothing = { reference: null, type: null, category: null, payee: null };
  if (row.kind === 'line') {
    const { description, stem, amount } = row.line;
    return { ...nothing, description, stem, amount };
  }
  const { title, direction, largest } = row.stack;
  return {
    ...nothing,
    description: title,
    stem: title,
    amount: direction === 'out' ? -largest : largest,
  };
}

function nudgeBooks(
  { books, accounts, payees }: BooksSetup,
  { dismissed }: DismissedNudges,
): NudgeBooks {
  const account = (id: string) => accounts.find((each) => each.id === id);
  return {
    assetThreshold: books.assetThreshold,
    accountOfRole: (role) => accounts.find((each) => each.role === role && each.isOn)?.id ?? null,
    drawingsOf: (payeeId) => {
      const payee = payees.find(({ id }) => id === payeeId);
      return payee?.kind === 'owner' ? payee.accountId : null;
    },
    accountType: (id) => account(id)?.type ?? null,
    isDismissed: (nudge, payeeId, stem) =>
      dismissed.some(
        (each) =>
          each.nudge === nudge &&
          (each.stem === stem || (payeeId !== null && each.payeeId === payeeId)),
      ),
  };
}
