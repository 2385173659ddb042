import { act, cleanup, render, screen } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import { late } from './late.tsx';

afterEach(cleanup);

it('fetches a part when it is first shown, once, and passes on what it is given', async () => {
  const load = vi.fn(async () => ({ name }: { readonly name: string }) => <p>Kiln of {name}</p>);
  const Kiln = late(load);
  const { rerender, container } = render(<main />);
  expect(load).not.toHaveBeenCalled();
  rerender(<Kiln name="Orla" />);
  expect(container.textContent).toBe('');
  expect(await screen.findByText('Kiln of Orla')).toBeDefined();
  rerender(<Kiln name="Mo" />);
  expect(screen.getByText('Kiln of Mo')).toBeDefined();
  await act(async () => rerender(<main />));
  rerender(<Kiln name="Fen" />);
  expect(screen.getByText('Kiln of Fen')).toBeDefined();
  expect(load).toHaveBeenCalledTimes(1);
});
