import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { type ReactElement, Suspense } from 'react';
import { afterEach, expect, it, vi } from 'vitest';
import { late, lateDialog, lateScreen, useAhead } from './late.tsx';

afterEach(cleanup);

/** A screen that fetches ahead. */
function Ahead({ fetches }: { readonly fetches: readonly (() => Promise<unknown>)[] }) {
  useAhead(fetches);
  return null;
}

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

it('draws at once what was fetched before', async () => {
  const Kiln = late(async () => () => <p>the kiln</p>);
  await Kiln.fetch();
  render(<Kiln />);
  expect(screen.getByText('the kiln')).toBeDefined();
});

it('leaves waiting for a screen to what stands around it, and what was fetched waits for nothing', async () => {
  const waited = vi.fn(() => <p>waiting</p>);
  const Waited = waited;
  const screenOf = (Screen: ReturnType<typeof lateScreen<object>>) => (
    <Suspense fallback={<Waited />}>
      <Screen />
    </Suspense>
  );
  const Board = lateScreen<object>(async () => () => <p>the Board</p>);
  const { unmount } = render(screenOf(Board));
  expect(screen.getByText('waiting')).toBeDefined();
  expect(await screen.findByText('the Board')).toBeDefined();
  unmount();
  waited.mockClear();
  const Desk = lateScreen<object>(async () => () => <p>the Desk</p>);
  await Desk.fetch();
  render(screenOf(Desk));
  expect(screen.getByText('the Desk')).toBeDefined();
  expect(waited).not.toHaveBeenCalled();
});

it('keeps what is shown where the part comes by another way meanwhile', async () => {
  const Late = late<object>(async () => () => <input aria-label="Glaze" />);
  const { rerender } = render(<Late />);
  const field = await screen.findByLabelText('Glaze');
  await Late.fetch();
  rerender(<Late />);
  expect(screen.getByLabelText('Glaze')).toBe(field);
});

it('holds the keys back from what is behind a dialog until it is there', async () => {
  const pressed = vi.fn();
  document.addEventListener('keydown', pressed);
  let come: (dialog: () => ReactElement) => void = () => undefined;
  const Dialog = lateDialog<object>(() => new Promise((resolve) => (come = resolve)));
  render(<Dialog />);
  const isTaken = (key: string, more = {}) => !fireEvent.keyDown(document.body, { key, ...more });
  expect(isTaken('x')).toBe(true);
  expect(isTaken('Enter')).toBe(true);
  expect(pressed).not.toHaveBeenCalled();
  expect(isTaken('r', { ctrlKey: true })).toBe(false);
  expect(isTaken('F5')).toBe(false);
  await act(async () => come(() => <p>Exclude 3 lines</p>));
  expect(await screen.findByText('Exclude 3 lines')).toBeDefined();
  pressed.mockClear();
  expect(isTaken('x')).toBe(false);
  expect(pressed).toHaveBeenCalledTimes(1);
  document.removeEventListener('keydown', pressed);
});

it('fetches ahead a while after a screen came, and not where it was left before', () => {
  vi.useFakeTimers();
  const fetches = [vi.fn(async () => undefined)];
  const left = render(<Ahead fetches={fetches} />);
  vi.advanceTimersByTime(1_000);
  left.unmount();
  vi.advanceTimersByTime(5_000);
  expect(fetches[0]).not.toHaveBeenCalled();
  render(<Ahead fetches={fetches} />);
  vi.advanceTimersByTime(5_000);
  expect(fetches[0]).toHaveBeenCalledTimes(1);
  vi.useRealTimers();
});
