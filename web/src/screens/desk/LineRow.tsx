import { candidateNames } from '@zubrell/core/pair/candidateNames';
import { t } from '@zubrell/core/words/t';
import { memo } from 'react';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { Amount } from '../../ui/Amount.tsx';
import { type DeskRow, laneOfLine } from './rows.ts';
import type { Oddity } from './standingOut.ts';
import { TickMoon } from './TickMoon.tsx';
import { useDeskActions } from './useDeskActions.ts';
import { useRowCoding, useTickState } from './useRow.ts';

const ODDITIES = { amount: t`its amount stands out`, word: t`a word stands out` } as const;

const KEPT_OUT = { excluded: t`Excluded`, deleted: t`Deleted` } as const;

/** One line: date, the bank's wording, where it goes, amount. */
export const LineRow = memo(function LineRow({
  row,
  id,
  top,
  isCurrent,
  index,
  oddity,
  onMove,
}: {
  readonly row: Extract<DeskRow, { kind: 'line' }>;
  readonly id: string;
  readonly top: number;
  readonly isCurrent: boolean;
  /** Its place in the list. */
  readonly index: number;
  /** Why it stands out among the lines of its stack. */
  readonly oddity: Oddity | null;
  readonly onMove: (index: number) => void;
}) {
  const { accountName, payeeName, taxName, currencyOf } = useBooks();
  const { tick, insteadOf } = useDeskActions();
  const typed = useRowCoding(row);
  const showDate = useShowDate();
  const ticked = useTickState(row);
  const { line } = row;
  const { decision } = line;
  const decided = decision?.coding?.parts[0];
  const coding = decided ?? typed;
  const instead = decision ? null : insteadOf(row);
  const pairedWith = instead?.kind === 'pair' ? instead.targets : null;
  const parts = (decision?.coding ?? typed).parts?.length ?? 1;
  return (
    <div
      id={id}
      role="row"
      aria-selected={isCurrent}
      aria-level={decision === null ? 2 : 1}
      aria-rowindex={index + 1}
      className={`desk-row line ${isCurrent ? 'current' : ''} ${oddity ? 'odd' : ''}`}
      style={{ transform: `translateY(${top}px)` }}
      onClick={() => onMove(index)}
    >
      <span className="moon-cell" role="gridcell">
        <TickMoon
          kind={decision?.kind ?? laneOfLine(line)}
          name={line.description}
          state={ticked}
          onTick={() => void tick(row)}
        />
      </span>
      <span role="gridcell">{showDate(line.date)}</span>
      <span
        className={`mono wording ${decision ? '' : 'wide'}`}
        role="gridcell"
        title={line.description}
      >
        {line.description}
        {oddity && <span className="oddity">{ODDITIES[oddity]}</span>}
      </span>
      {decision && (
        <span role="gridcell" className="wide-only">
          {payeeName(decision.coding?.payeeId ?? decision.paired[0]?.payeeId ?? null)}
        </span>
      )}
      <span role="gridcell" className={`wide-only ${line.draft ? 'from-draft' : ''}`}>
        {decision?.kind === 'paired' || pairedWith
          ? `= ${candidateNames(pairedWith ?? decision?.paired ?? [])}`
          : decision && decision.kind !== 'posted'
            ? KEPT_OUT[decision.kind]
            : parts > 1
              ? t`Split into ${parts}`
              : accountName(coding.accountId)}
      </span>
      <span role="gridcell" className="wide-only">
        {parts > 1 ? '' : taxName(coding.taxCodeId)}
      </span>
      <span className="num" role="gridcell">
        <Amount minor={line.amount} currency={currencyOf(line.bankAccountId)} />
      </span>
    </div>
  );
});
