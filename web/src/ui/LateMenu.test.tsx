import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Dropdown } from 'react-bootstrap';
import { afterEach, expect, it, vi } from 'vitest';
import { LateMenu, type LateProps } from './LateMenu.tsx';
import { MenuFrame } from './MenuFrame.tsx';

afterEach(cleanup);

function Fruit({ button, names }: LateProps & { readonly names: readonly string[] }) {
  return (
    <MenuFrame button={button}>
      {names.map((name) => (
        <Dropdown.Item key={name} as="button">
          {name}
        </Dropdown.Item>
      ))}
    </MenuFrame>
  );
}

function shown() {
  const load = vi.fn(async () => Fruit);
  const button = { className: 'btn', label: 'Fruit', content: '…' };
  render(<LateMenu button={button} load={load} props={{ names: ['Quince', 'Medlar'] }} />);
  return {
    user: userEvent.setup(),
    load,
    button: () => screen.getByRole('button', { name: 'Fruit' }),
  };
}

it('is a button alone until it is wanted, then opens with the focus where it was', async () => {
  const { user, load, button } = shown();
  expect(load).not.toHaveBeenCalled();
  expect(button().getAttribute('aria-expanded')).toBe('false');
  await user.click(button());
  expect(await screen.findByText('Quince')).toBeDefined();
  expect(button().getAttribute('aria-expanded')).toBe('true');
  expect(document.activeElement).toBe(button());
  await user.click(button());
  await waitFor(() => expect(button().getAttribute('aria-expanded')).toBe('false'));
});

it('opens by keys, and closes by Esc', async () => {
  const { user, button } = shown();
  await user.tab();
  expect(document.activeElement).toBe(button());
  await user.keyboard('{ArrowDown}');
  expect(await screen.findByText('Medlar')).toBeDefined();
  await user.keyboard('{Escape}');
  await waitFor(() => expect(button().getAttribute('aria-expanded')).toBe('false'));
  await user.keyboard('{ArrowDown}');
  await waitFor(() => expect(button().getAttribute('aria-expanded')).toBe('true'));
});
