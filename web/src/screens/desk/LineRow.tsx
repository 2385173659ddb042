import { useAppSelector } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { Amount } from '../../ui/Amount.tsx';
import { Moon } from '../../ui/Moon.tsx';
import { type DeskRow, laneOfLine } from './rows.ts';
import { TickMoon } from './TickMoon.tsx';
import { useDeskActions } from './useDeskActions.ts';
import { useTicks } from './useTicks.ts';

const KEPT_OUT = { excluded: 'Excluded', deleted: 'Deleted' } as const;

/** One line: date, the bank's wording, where it goes, amount. */
export function LineRow({
  row,
  id,
  top,
  isCurrent,
  onPick,
}: {
  readonly row: Extract<DeskRow, { kind: 'line' }>;
  readonly id: string;
  readonly top: number;
  readonly isCurrent: boolean;
  readonly onPick: () => void;
}) {
  const { accountName, payeeName, taxName } = useBooks();
  const { codingOf } = useDeskActions();
  const showDate = useShowDate();
  const openStack = useAppSelector((state) => state.desk.openStack);
  const { stateOf, toggle } = useTicks(openStack);
  const { line } = row;
  const { decision } = line;
  const decided = decision?.coding?.parts[0];
  const coding = decided ?? codingOf(row);
  return (
    <div
      id={id}
      role="row"
      aria-selected={isCurrent}
      className={`desk-row line ${isCurrent ? 'current' : ''}`}
      style={{ transform: `translateY(${top}px)` }}
      onClick={onPick}
    >
      <span className="moon-cell" role="gridcell">
        {decision && decision.kind !== 'posted' ? (
          <Moon kind={decision.kind} />
        ) : (
          <TickMoon
            kind={decision ? decision.kind : laneOfLine(line)}
            name={line.description}
            state={stateOf(row)}
            onTick={() => void toggle(row)}
          />
        )}
      </span>
      <span role="gridcell">{showDate(line.date)}</span>
      <span
        className={`mono wording ${decision ? '' : 'wide'}`}
        role="gridcell"
        title={line.description}
      >
        {line.description}
      </span>
      {decision && <span role="gridcell">{payeeName(decision.coding?.payeeId ?? null)}</span>}
      <span role="gridcell" className={line.draft ? 'from-draft' : ''}>
        {decision && decision.kind !== 'posted'
          ? KEPT_OUT[decision.kind]
          : accountName(coding.accountId)}
      </span>
      <span role="gridcell">{taxName(coding.taxCodeId)}</span>
      <span className="num" role="gridcell">
        <Amount minor={line.amount} />
      </span>
    </div>
  );
}
