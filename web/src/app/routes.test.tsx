import { cleanup, render, screen } from '@testing-library/react';
import { Provider } from 'react-redux';
import { MemoryRouter, useLocation } from 'react-router';
import { afterEach, expect, it, vi } from 'vitest';
import { fetchScreens, Routes } from './routes.tsx';
import { makeStore } from './store.ts';

const load = vi.hoisted(() => ({ board: vi.fn() }));
vi.mock('../screens/board/BoardScreen.tsx', () => {
  load.board();
  return { BoardScreen: () => <main>the Board</main> };
});

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

function Address() {
  return <output>{useLocation().pathname}</output>;
}

/** The whole web at an address, for somebody who isn't signed in. */
function shownAt(address: string) {
  vi.stubGlobal(
    'Request',
    class extends Request {
      constructor(input: string, { signal: _signal, ...rest }: RequestInit = {}) {
        super(new URL(input, 'http://zubrell.test'), rest);
      }
    },
  );
  vi.stubGlobal('fetch', async () =>
    Response.json({ user: null, isDemo: false, needsFirstUser: false, today: '2026-04-08' }),
  );
  render(
    <Provider store={makeStore()}>
      <MemoryRouter initialEntries={[address]}>
        <Routes />
        <Address />
      </MemoryRouter>
    </Provider>,
  );
}

it.each(['/books/larkmoor/desk', '/account', '/nowhere/at/all'])(
  'leads to signing in from %s',
  async (address) => {
    shownAt(address);
    expect(await screen.findByLabelText('Password')).toBeDefined();
    expect(screen.getByRole('status').textContent).toBe('/sign-in');
  },
);

it('fetches the screen of an address together with what stands around it', async () => {
  await fetchScreens('/books/larkmoor/board');
  expect(load.board).toHaveBeenCalledOnce();
});
