import './dayField.scss';

/** A day with its label beside it, as for a period. */
export function DayField({
  label,
  value,
  isFixed = false,
  mayBeEmpty = false,
  onChange,
}: {
  readonly label: string;
  readonly value: string;
  readonly isFixed?: boolean;
  readonly mayBeEmpty?: boolean;
  readonly onChange: (day: string) => void;
}) {
  return (
    <label className="day-field">
      <span className="quiet">{label}</span>
      <input
        key={value}
        type="date"
        className="form-control"
        disabled={isFixed}
        defaultValue={value}
        // Only a whole date is taken: years pass through 0002 and 0020 as they are typed.
        onBlur={({ target }) => {
          if (target.value === value || (target.value === '' && !mayBeEmpty)) return;
          onChange(target.value);
        }}
      />
    </label>
  );
}
