import { Dropdown } from 'react-bootstrap';
import { NavLink } from 'react-router';
import type { LateProps } from '../ui/LateMenu.tsx';
import { MenuFrame } from '../ui/MenuFrame.tsx';

/** The screens of the books, where there is no room for them side by side. */
export function PlacesMenu({
  button,
  places,
}: LateProps & {
  /** Their addresses and names. */
  readonly places: readonly (readonly [string, string])[];
}) {
  return (
    <MenuFrame button={button}>
      {places.map(([path, label]) => (
        <Dropdown.Item key={path} as={NavLink} to={path}>
          {label}
        </Dropdown.Item>
      ))}
    </MenuFrame>
  );
}
