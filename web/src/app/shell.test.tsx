import { act, screen, waitFor, within } from '@testing-library/react';
import { useEffect } from 'react';
import { Link, Route, Routes } from 'react-router';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { type Answers, problem, renderInBooks } from '../testing/renderInBooks.tsx';
import { setRoomForRows } from '../testing/roomForRows.ts';
import { stubStepEvents } from '../testing/stubStepEvents.ts';
import { testBooks } from '../testing/testBooks.ts';
import { BooksShell } from './BooksShell.tsx';
import { CrashNote } from './CrashNote.tsx';
import { SignedIn } from './SignedIn.tsx';
import { useAppDispatch } from './store.ts';
import { useBooks } from './useBooks.ts';
import { useToday } from './useToday.ts';
import { WayBackLink } from './WayBackLink.tsx';
import { leftFor } from './wayBackSlice.ts';

setRoomForRows();
beforeEach(() => {
  events = stubStepEvents();
});
let events: ReturnType<typeof stubStepEvents>;

const mo = { id: 'mo', name: 'Mo Oakes', email: 'mo@larkmoor.example', locale: 'en-GB' } as const;
const session = { user: mo, isDemo: false, needsFirstUser: false, today: '2026-04-08' };

/** A screen of the books. */
function Screen() {
  return <main>{useBooks().setup.books.name}</main>;
}

/** A screen that shows which day it is. */
function Today() {
  return <p>{useToday()}</p>;
}

/** A screen that was gone to from another, which it leads back to. */
function Leaving({ to }: { readonly to: string }) {
  const dispatch = useAppDispatch();
  useEffect(() => {
    dispatch(leftFor({ to, name: 'Close March 2026' }));
  }, [dispatch, to]);
  return (
    <>
      <WayBackLink within="/books/books/" />
      <Link to="/books/books/elsewhere">elsewhere</Link>
    </>
  );
}

function Broken(): never {
  throw new Error('the kiln is cold');
}

/** The frame with a screen in it. */
const shell = (answers: Answers = {}) =>
  renderInBooks(
    <Routes>
      <Route element={<BooksShell />}>
        <Route path="*" element={<Screen />} />
      </Route>
    </Routes>,
    { answers: { 'GET /setup': testBooks(), 'GET /api/session': session, ...answers } },
  );

describe('the frame around the books', () => {
  it('names the books, and leads to each of their screens', async () => {
    const { router, user } = shell();
    const { name } = testBooks().books;
    expect((await screen.findByRole('main')).textContent).toBe(name);
    expect(screen.getByRole('button', { name })).toBeDefined();
    const places = screen
      .getAllByRole('navigation', { name: 'Screens' })
      .flatMap((each) => within(each).queryAllByRole('link'))
      .map((link) => link.textContent);
    expect(places).toEqual(['Board', 'Desk', 'Intake', 'Rules', 'Ledger', 'Statements', 'Reports']);
    await user.click(screen.getByRole('link', { name: 'History' }));
    expect(router.state.location.pathname).toMatch(/\/history$/);
  });

  it('waits for the books, and says so where they can’t be had', async () => {
    shell({ 'GET /setup': () => problem('BOOKS_UNKNOWN') });
    expect(screen.queryByText('Larkmoor Kiln Works')).toBeNull();
    expect((await screen.findByRole('alert')).textContent).not.toBe('');
    expect(screen.getByRole('link', { name: 'Zubrell, all books' })).toBeDefined();
  });

  it('keeps a screen that stands where the books can’t be asked for again, unless they are gone', async () => {
    let answer: () => object = testBooks;
    const { sent } = shell({ 'GET /setup': () => answer() });
    await screen.findByRole('main');
    const asked = () => sent.filter(({ path }) => path === '/setup').length;
    const hearOfAccount = async () => {
      const before = asked();
      act(() => events.hear({ step: 9, touched: ['account'], by: null }));
      await waitFor(() => expect(asked()).toBeGreaterThan(before));
    };
    answer = () => problem('INTERNAL');
    await hearOfAccount();
    await new Promise((done) => setTimeout(done, 50));
    expect(screen.getByText(testBooks().books.name, { selector: 'main' })).toBeDefined();
    answer = () => problem('BOOKS_UNKNOWN');
    await hearOfAccount();
    expect((await screen.findByRole('alert')).textContent).toMatch(/you have no access/);
    expect(screen.queryByText(testBooks().books.name, { selector: 'main' })).toBeNull();
  });

  it('lists the other books behind the name of these', async () => {
    const { user } = shell({
      'GET /api/books': {
        books: [
          { id: 'books', name: testBooks().books.name },
          { id: 'canoes', name: 'Fennick Canoe Hire' },
        ],
      },
    });
    await screen.findByRole('main');
    await user.click(screen.getByRole('button', { name: testBooks().books.name }));
    const other = await screen.findByRole('link', { name: 'Fennick Canoe Hire' });
    expect(other.getAttribute('href')).toBe('/books/canoes/board');
    expect(screen.getByRole('link', { name: 'All books, new books …' })).toBeDefined();
  });

  it('opens Jump by the keyboard', async () => {
    const { user } = shell();
    await screen.findByRole('main');
    await user.keyboard('{Control>}k{/Control}');
    expect(await screen.findByRole('dialog')).toBeDefined();
  });

  it('takes the latest step back and brings it again by the keyboard', async () => {
    const { user, sent } = shell({
      'POST /steps/undo': { step: 9, words: 'Undid: Posted 1 line', turned: [] },
      'POST /steps/redo': { step: 10, words: 'Redid: Posted 1 line', turned: [] },
    });
    await screen.findByRole('main');
    await user.keyboard('{Control>}z{/Control}');
    await user.keyboard('{Control>}{Shift>}z{/Shift}{/Control}');
    await waitFor(() =>
      expect(sent.filter(({ method }) => method === 'POST')).toMatchObject([
        { path: '/steps/undo', body: { step: null, withLater: false } },
        { path: '/steps/redo', body: { step: null, withEarlier: false } },
      ]),
    );
  });

  it('asks before other steps go with the one that is undone, and names them', async () => {
    let asked = 0;
    const { user, sent } = shell({
      'POST /steps/undo': () => {
        asked += 1;
        return asked === 1
          ? problem('STEP_TOUCHED', { step: 7, count: 2, steps: '9 “Posted 1 line” and 8 “Named”' })
          : { step: 10, words: 'Undid: Imported 3 lines', turned: [] };
      },
    });
    await screen.findByRole('main');
    await user.keyboard('{Control>}z{/Control}');
    const dialog = await screen.findByRole('dialog');
    expect(dialog.textContent).toContain('9 “Posted 1 line” and 8 “Named”');
    await user.click(within(dialog).getByRole('button', { name: 'Undo step 7 and 2 more steps' }));
    await waitFor(() =>
      expect(sent.filter(({ method }) => method === 'POST').at(-1)?.body).toEqual({
        step: 7,
        withLater: true,
      }),
    );
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  });
});

describe('what only signed-in people see', () => {
  const guarded = (answer: object) =>
    renderInBooks(
      <Routes>
        <Route element={<SignedIn />}>
          <Route path="*" element={<Today />} />
        </Route>
      </Routes>,
      { answers: { 'GET /api/session': answer }, query: '?lane=check' },
    );

  it('is shown to them by the server’s day', async () => {
    guarded(session);
    expect(await screen.findByText('2026-04-08')).toBeDefined();
  });

  it('is kept from others, who come back to it once they have signed in', async () => {
    const { router } = guarded({ ...session, user: null });
    await waitFor(() => expect(router.state.location.pathname).toBe('/sign-in'));
    expect(router.state.location.state).toEqual({ from: '/books/books/here?lane=check' });
  });

  it('is not shown where the server can’t say who it is', async () => {
    guarded(problem('INTERNAL'));
    expect((await screen.findByRole('alert')).textContent).not.toBe('');
    expect(screen.queryByText('2026-04-08')).toBeNull();
  });
});

describe('the way back', () => {
  it('leads to the screen that was left, and is gone there', async () => {
    const { user, router } = renderInBooks(<Leaving to="/books/books/close/2026-03" />);
    await user.click(await screen.findByRole('link', { name: 'Close March 2026' }));
    expect(router.state.location.pathname).toBe('/books/books/close/2026-03');
    await act(() => router.navigate('/books/books/here'));
    expect(screen.queryByRole('link', { name: 'Close March 2026' })).toBeNull();
  });

  it('is none into other books, or to where one is', async () => {
    renderInBooks(<Leaving to="/books/canoes/close/2026-03" />);
    await screen.findByText('elsewhere');
    expect(screen.queryByRole('link', { name: 'Close March 2026' })).toBeNull();
  });
});

describe('a screen that can’t be drawn', () => {
  it('says that nothing is lost, what was wrong, and how to go on', async () => {
    const heard = vi.spyOn(console, 'error').mockImplementation(() => undefined);
    const { router } = renderInBooks(
      <>
        <p>what stands around it</p>
        <CrashNote>
          <Routes>
            <Route path="broken" element={<Broken />} />
            <Route path="*" element={<p>fine</p>} />
          </Routes>
        </CrashNote>
      </>,
      { place: { path: '*', address: 'broken' } },
    );
    expect(await screen.findByText('This screen couldn’t be shown')).toBeDefined();
    expect(screen.getByText('the kiln is cold')).toBeDefined();
    expect(screen.getByRole('button', { name: 'Reload page' })).toBeDefined();
    expect(screen.getByText('what stands around it')).toBeDefined();
    await act(() => router.navigate('/books/books/whole'));
    expect(await screen.findByText('fine')).toBeDefined();
    heard.mockRestore();
  });
});
