import type { ReactNode } from 'react';
import { Dropdown } from 'react-bootstrap';
import type { MenuButton } from './LateMenu.tsx';

/** The menu of a `LateMenu`, which opens as soon as it is there. */
export function MenuFrame({
  button,
  align = 'start',
  isFixed = false,
  children,
}: {
  readonly button: MenuButton;
  readonly align?: 'start' | 'end';
  /** Whether it stands above what cuts off. */
  readonly isFixed?: boolean;
  readonly children: ReactNode;
}) {
  return (
    <Dropdown align={align} defaultShow className={button.around ?? ''}>
      <Dropdown.Toggle
        as="button"
        type="button"
        autoFocus
        className={button.className}
        aria-label={button.label}
      >
        {button.content}
      </Dropdown.Toggle>
      <Dropdown.Menu {...(isFixed ? { popperConfig: { strategy: 'fixed' } } : {})}>
        {children}
      </Dropdown.Menu>
    </Dropdown>
  );
}
