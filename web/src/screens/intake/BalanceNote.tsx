import type { Problem } from '@zubrell/core/formats/bankFile';
import type { TableLayout } from '@zubrell/core/formats/table/tableLayout';
import { t } from '@zubrell/core/words/t';
import { countLines } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import type { StatementSummary } from '../../workers/fileReading.ts';

/** Whether opening, lines and closing add up, and where they stop. */
export function BalanceNote({
  statement,
  layout,
  refused,
}: {
  readonly statement: StatementSummary;
  readonly layout: TableLayout | null;
  readonly refused: readonly Problem[];
}) {
  const { amount } = useBooks();
  const showDate = useShowDate();
  const { opening, closing, gap, firstBreak, lines } = statement;
  if (closing === null) {
    return (
      <p className="note quiet">{t`The file states no balance, so it can’t be checked on its own.`}</p>
    );
  }
  if (gap === null || opening === null) {
    return (
      <p className="note sure">
        {t`Closing balance ${amount(closing)}`}
        {statement.closingDate && t` on ${showDate(statement.closingDate)}`}.
      </p>
    );
  }
  const sum = `${amount(opening)} + ${countLines(lines.count)}`;
  if (gap === 0 && firstBreak === null) {
    return (
      <p className="note sure">
        {sum} = {amount(closing)}.{' '}
        {layout?.isProved
          ? t`The balances add up, so the signs are right.`
          : t`The balances add up.`}
      </p>
    );
  }
  return (
    <p className="note off">
      {gap === 0 ? (
        <>{t`${sum} = ${amount(closing)}, but in between the balances don’t add up.`} </>
      ) : (
        <>
          {t`${sum} is not ${amount(closing)}: ${amount(gap)} stays unexplained`}
          {refused.length > 0 && t` without the unreadable records`}.{' '}
        </>
      )}
      {firstBreak &&
        t`The first day that does not add up is ${showDate(firstBreak.date)}, by ${amount(firstBreak.difference)}.`}
    </p>
  );
}
