import type { DeskLine } from '@zubrell/contract/desk';
import { candidateNames } from '@zubrell/core/pair/candidateNames';
import { proposedCoding } from '@zubrell/core/propose/proposal';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { Amount } from '../../ui/Amount.tsx';

/** A line laid out before a sweep; unticked, it stays. */
export function SweepLine({
  line,
  isIn,
  onChange,
}: {
  readonly line: DeskLine;
  readonly isIn: boolean;
  readonly onChange: (isIn: boolean) => void;
}) {
  const { accountName, payeeName, currencyOf } = useBooks();
  const showDate = useShowDate();
  const coding = proposedCoding(line.proposal);
  return (
    <label className={`sweep-line ${isIn ? '' : 'quiet'}`}>
      <input
        type="checkbox"
        className="form-check-input"
        checked={isIn}
        onChange={({ target }) => onChange(target.checked)}
      />
      <span>{showDate(line.date)}</span>
      <span className="mono">{line.description}</span>
      <span>
        {line.proposal?.kind === 'pair'
          ? `= ${candidateNames(line.proposal.targets)}`
          : [payeeName(coding?.payeeId ?? null), accountName(coding?.parts[0]?.accountId ?? null)]
              .filter(Boolean)
              .join(', ')}
      </span>
      <span className="num">
        <Amount minor={line.amount} currency={currencyOf(line.bankAccountId)} />
      </span>
    </label>
  );
}
