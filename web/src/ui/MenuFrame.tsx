import { type ReactNode, useEffect, useState } from 'react';
import { Dropdown } from 'react-bootstrap';
import type { MenuButton } from './LateMenu.tsx';

/** The menu of a `LateMenu`, which opens as soon as it is there. */
export function MenuFrame({
  button,
  align = 'start',
  children,
}: {
  readonly button: MenuButton;
  readonly align?: 'start' | 'end';
  readonly children: ReactNode;
}) {
  const [isOpen, setIsOpen] = useState(false);
  // Once it stands, so that it is placed by where its button is.
  useEffect(() => setIsOpen(true), []);
  return (
    <Dropdown
      align={align}
      show={isOpen}
      onToggle={(next) => setIsOpen(next)}
      className={button.around ?? ''}
    >
      <Dropdown.Toggle
        as="button"
        type="button"
        autoFocus
        className={button.className}
        aria-label={button.label}
      >
        {button.content}
      </Dropdown.Toggle>
      {/* Above what scrolls, as the top bar of a narrow screen, which would cut it off. */}
      <Dropdown.Menu renderOnMount className="fixed-menu" popperConfig={{ strategy: 'fixed' }}>
        {children}
      </Dropdown.Menu>
    </Dropdown>
  );
}
