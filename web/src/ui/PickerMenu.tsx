import { Dropdown } from 'react-bootstrap';
import type { LateProps } from './LateMenu.tsx';
import { MenuFrame } from './MenuFrame.tsx';

export interface PickerMenuProps {
  readonly value: string | null;
  /** What no choice means; null where one must be chosen. */
  readonly all: string | null;
  readonly choices: readonly (readonly [string, string])[];
  readonly onChange: (value: string | null) => void;
}

/** The list of a `Picker`. */
export function PickerMenu({ button, value, all, choices, onChange }: LateProps & PickerMenuProps) {
  return (
    <MenuFrame button={button}>
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
    </MenuFrame>
  );
}
