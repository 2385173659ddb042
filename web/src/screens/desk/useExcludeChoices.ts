import { skipToken } from '@reduxjs/toolkit/query';
import type { DeskLine, ExcludeReason, MateLine, Stack } from '@zubrell/contract/desk';
import type { LineId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { linesApi } from '../../api/lines.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { reasonMeanings } from './excludeWords.ts';
import { rowSum } from './rowSum.ts';
import type { DeskRow } from './rows.ts';
import { useDeskScope } from './useDeskScope.ts';

/** Which reasons for keeping a row out of the books can be true of it. */
export interface ExcludeChoices {
  /** Why a reason can't be true; null where it can. */
  readonly refusals: Readonly<Record<ExcludeReason, string | null>>;
  readonly meanings: Readonly<Record<ExcludeReason, string>>;
  /** The line, where the row stands for a single one. */
  readonly lineId: LineId | null;
  /** Of a single line: what it may be a copy of, and what may correct it. */
  readonly originals: readonly MateLine[];
  readonly corrections: readonly MateLine[];
}

/** The line of a row that stands for a single one: itself, or the only one of its stack. */
function useOnlyLine(row: DeskRow): DeskLine | null {
  const { booksId } = useBooks();
  const { lane, scope } = useDeskScope();
  const isAlone = row.kind === 'stack' && row.stack.count === 1 && lane !== 'decided';
  const { data } = linesApi.useStackLinesQuery(
    isAlone ? { booksId, ...scope, lane, ...stackKey(row.stack) } : skipToken,
  );
  if (row.kind === 'line') return row.line;
  return data?.lines[0] ?? null;
}

const stackKey = ({ grouping, key, direction }: Stack) => ({ grouping, key, direction });

/** Finds out which reasons can be true of a row. The server checks them again. */
export function useExcludeChoices(row: DeskRow): ExcludeChoices {
  const { booksId, setup, amount } = useBooks();
  const showDate = useShowDate();
  const line = useOnlyLine(row);
  const { data } = linesApi.useLineMatesQuery(line ? { booksId, lineId: line.id } : skipToken);
  const { total, count } = rowSum(row);
  const originals = data?.originals ?? [];
  const corrections = data?.corrections ?? [];
  const opening = line
    ? setup.bankAccounts.find(({ id }) => id === line.bankAccountId)?.opening
    : undefined;
  const isAfter = line !== null && (!opening || line.date > opening.date);
  const isLone = line ? corrections.length === 0 : total !== 0 || count < 2;
  return {
    lineId: line?.id ?? null,
    originals,
    corrections,
    meanings: reasonMeanings,
    refusals: {
      secondCopy:
        line && data && originals.length === 0
          ? t`No other line of this account has the same amount within a month.`
          : null,
      beforeOpening: isAfter
        ? opening
          ? t`The opening balance is of ${showDate(opening.date)}, before this line.`
          : t`This bank account has no opening balance yet.`
        : null,
      bankError: isLone
        ? line
          ? t`No open line of the opposite amount corrects this one.`
          : t`These lines come to ${amount(total)}, not to ${amount(0)}.`
        : null,
    },
  };
}
