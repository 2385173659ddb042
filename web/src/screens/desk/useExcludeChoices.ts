import type { ExcludeReason, MateLine } from '@zubrell/contract/desk';
import { api } from '../../app/api.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { rowSum } from './rowSum.ts';
import type { DeskRow } from './rows.ts';

/** Which reasons for keeping a row out of the books can be true of it. */
export interface ExcludeChoices {
  /** Why a reason can't be true; null where it can. */
  readonly refusals: Readonly<Record<ExcludeReason, string | null>>;
  readonly meanings: Readonly<Record<ExcludeReason, string>>;
  /** Of a single line: what it may be a copy of, and what may correct it. */
  readonly originals: readonly MateLine[];
  readonly corrections: readonly MateLine[];
}

const MEANINGS: Readonly<Record<ExcludeReason, string>> = {
  secondCopy: 'The bank moved this money once; the line came in twice.',
  beforeOpening: 'The opening balance already includes it.',
  bankError: 'The bank booked it in error and took it back. Both lines are excluded together.',
};

/** Finds out which reasons can be true of a row. The server checks them again. */
export function useExcludeChoices(row: DeskRow): ExcludeChoices {
  const { booksId, setup, amount } = useBooks();
  const showDate = useShowDate();
  const isLine = row.kind === 'line';
  const { data } = api.useLineMatesQuery({ booksId, lineId: row.id }, { skip: !isLine });
  const { total, count } = rowSum(row);
  const originals = data?.originals ?? [];
  const corrections = data?.corrections ?? [];
  const opening = isLine
    ? setup.bankAccounts.find(({ id }) => id === row.line.bankAccountId)?.opening
    : undefined;
  const isAfter = isLine && (!opening || row.line.date > opening.date);
  const isLone = isLine ? corrections.length === 0 : total !== 0 || count < 2;
  return {
    originals,
    corrections,
    meanings: MEANINGS,
    refusals: {
      secondCopy:
        isLine && originals.length === 0
          ? 'No other line of this account has the same amount within a month.'
          : null,
      beforeOpening: isAfter
        ? opening
          ? `The opening balance is of ${showDate(opening.date)}, before this line.`
          : 'This bank account has no opening balance yet.'
        : null,
      bankError: isLone
        ? isLine
          ? 'No open line of the opposite amount takes it back.'
          : `These lines come to ${amount(total)}, not to ${amount(0)}.`
        : null,
    },
  };
}
