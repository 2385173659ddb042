import type { DecisionKind, MateLine } from '@zubrell/contract/desk';
import { t } from '@zubrell/core/words/t';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { SelectField } from '../../ui/SelectField.tsx';

const STATES: Readonly<Record<DecisionKind, string>> = {
  posted: 'posted',
  paired: 'paired',
  excluded: 'excluded',
  deleted: 'deleted',
};

/** The line that a line belongs together with: its original, or its correction. */
export function MateChoice({
  label,
  mates,
  value,
  onChange,
}: {
  readonly label: string;
  readonly mates: readonly MateLine[];
  readonly value: string | undefined;
  readonly onChange: (id: string) => void;
}) {
  const { amount } = useBooks();
  const showDate = useShowDate();
  if (mates.length === 0) return null;
  return (
    <SelectField
      label={label}
      value={value ?? ''}
      onChange={({ target }) => onChange(target.value)}
    >
      {mates.map((mate) => (
        <option key={mate.id} value={mate.id}>
          {showDate(mate.date)} · {mate.description} · {amount(mate.amount)} ·{' '}
          {mate.decision ? STATES[mate.decision] : t`open`}
        </option>
      ))}
    </SelectField>
  );
}
