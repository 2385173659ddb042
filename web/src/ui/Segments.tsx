/** A choice of one among a few, side by side. */
export function Segments<Value extends string>({
  label,
  choices,
  value,
  onChange,
}: {
  readonly label: string;
  readonly choices: readonly (readonly [Value, string])[];
  readonly value: Value;
  readonly onChange: (value: Value) => void;
}) {
  return (
    // biome-ignore lint/a11y/useSemanticElements: a fieldset would bring a frame of its own
    <div className="segments" role="group" aria-label={label}>
      {choices.map(([choice, text]) => (
        <button
          type="button"
          key={choice}
          aria-pressed={choice === value}
          onClick={() => onChange(choice)}
        >
          {text}
        </button>
      ))}
    </div>
  );
}
