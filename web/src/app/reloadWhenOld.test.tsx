import { render } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import { useAhead } from '../ui/late.tsx';
import { reloadWhenOld } from './reloadWhenOld.ts';

afterEach(() => {
  sessionStorage.clear();
  vi.useRealTimers();
});

/** What the page hears when a part of it can't be fetched. @returns whether it goes on as if nothing had failed */
function fail(): boolean {
  const event = new Event('vite:preloadError', { cancelable: true });
  window.dispatchEvent(event);
  return event.defaultPrevented;
}

it('loads the window again where a part of it is gone, once, and later once more', () => {
  vi.useFakeTimers();
  const reload = vi.fn();
  const leave = reloadWhenOld(reload);
  expect(fail()).toBe(true);
  expect(reload).toHaveBeenCalledTimes(1);
  // It failed again at once: it is said, and not tried for ever.
  expect(fail()).toBe(false);
  expect(reload).toHaveBeenCalledTimes(1);
  vi.advanceTimersByTime(61_000);
  expect(fail()).toBe(true);
  expect(reload).toHaveBeenCalledTimes(2);
  leave();
  expect(fail()).toBe(false);
});

/** A screen that fetches a part ahead, which is gone. */
function Ahead({ fetches }: { readonly fetches: readonly (() => Promise<unknown>)[] }) {
  useAhead(fetches);
  return null;
}

it('leaves a window alone where only what nobody asked for is gone', async () => {
  vi.useFakeTimers();
  const reload = vi.fn();
  const leave = reloadWhenOld(reload);
  const gone = vi.fn(async () => {
    fail();
    throw new Error('gone');
  });
  const { unmount } = render(<Ahead fetches={[gone]} />);
  await vi.advanceTimersByTimeAsync(3_000);
  expect(gone).toHaveBeenCalledTimes(1);
  expect(reload).not.toHaveBeenCalled();
  // What is wanted afterwards is another matter.
  expect(fail()).toBe(true);
  expect(reload).toHaveBeenCalledTimes(1);
  unmount();
  leave();
});
