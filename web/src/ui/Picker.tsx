import { t } from '@zubrell/core/words/t';
import { Dropdown } from 'react-bootstrap';

/** A labelled button that opens a list to choose one of, or all. */
export function Picker({
  id,
  label,
  value,
  all,
  choices,
  onChange,
}: {
  readonly id: string;
  readonly label: string;
  readonly value: string | null;
  /** What no choice means; null where one must be chosen. */
  readonly all: string | null;
  readonly choices: readonly (readonly [string, string])[];
  readonly onChange: (value: string | null) => void;
}) {
  const chosen = choices.find(([each]) => each === value)?.[1] ?? all ?? t`Choose …`;
  return (
    <Dropdown>
      <Dropdown.Toggle variant="plain" className="picker" id={id}>
        <span className="label">{label}</span> {chosen}
      </Dropdown.Toggle>
      <Dropdown.Menu>
        {all !== null && (
          <Dropdown.Item as="button" active={value === null} onClick={() => onChange(null)}>
            {all}
          </Dropdown.Item>
        )}
        {choices.map(([each, text]) => (
          <Dropdown.Item
            as="button"
            key={each}
            active={each === value}
            onClick={() => onChange(each)}
          >
            {text}
          </Dropdown.Item>
        ))}
      </Dropdown.Menu>
    </Dropdown>
  );
}
