import { t } from '@zubrell/core/words/t';
import { Menu } from 'lucide-react';
import { Suspense, useEffect, useMemo, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { NavLink, Outlet } from 'react-router';
import { booksApi } from '../api/books.ts';
import { ErrorNote } from '../ui/ErrorNote.tsx';
import { LateMenu } from '../ui/LateMenu.tsx';
import { lateDialog, useAhead } from '../ui/late.tsx';
import { tx } from '../ui/tx.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { BooksPicker } from './BooksPicker.tsx';
import { countPresses } from './presses.ts';
import { shownProblem } from './problem.ts';
import { useAppSelector } from './store.ts';
import { UserMenu } from './UserMenu.tsx';
import { BooksContext, shownBooks, useBooksId } from './useBooks.ts';
import { useStepEvents } from './useStepEvents.ts';
import { useUndo } from './useUndo.tsx';
import { WayBackLink } from './WayBackLink.tsx';

const JumpDialog = lateDialog(async () => (await import('./JumpDialog.tsx')).JumpDialog);
const TurnDialog = lateDialog(async () => (await import('./TurnDialog.tsx')).TurnDialog);

const AHEAD = [JumpDialog.fetch];
const loadPlaces = async () => (await import('./PlacesMenu.tsx')).PlacesMenu;

const PLACES = [
  ['board', t`Board`],
  ['desk', t`Desk`],
  ['intake', t`Intake`],
  ['rules', t`Rules`],
  ['ledger', t`Ledger`],
  ['statements', t`Statements`],
  ['reports', t`Reports`],
] as const;

/** The frame around every screen of one set of books. */
export function BooksShell() {
  const booksId = useBooksId();
  const { data: setup, error } = booksApi.useSetupQuery(booksId);
  const { undo, redo } = useUndo();
  const [isJumping, setIsJumping] = useState(false);
  const kept = useAppSelector((state) => state.desk.kept);
  const asked = useAppSelector(({ undo }) => undo.asked);
  const desk = kept.booksId === booksId && kept.query ? `desk?${kept.query}` : 'desk';
  const addressOf = (path: string) => (path === 'desk' ? desk : path);
  const shown = useMemo(() => setup && shownBooks(booksId, setup), [booksId, setup]);
  // A screen and what is typed in it stays where only asking once more failed.
  const isLost = error && (!shown || shownProblem(error).code === 'BOOKS_UNKNOWN');
  useStepEvents(booksId);
  useAhead(AHEAD);
  useHotkeys('mod+k', () => setIsJumping(true), {
    preventDefault: true,
    enableOnFormTags: true,
  });
  useHotkeys('mod+z', () => void undo(), { preventDefault: true });
  useHotkeys('mod+shift+z', () => void redo(), { preventDefault: true });
  return (
    <div className="frame">
      <header className="top-bar">
        <NavLink to="/" className="word" aria-label={t`Zubrell, all books`}>
          zubrell
        </NavLink>
        <BooksPicker name={setup?.books.name ?? ''} />
        <LateMenu
          button={{
            className: 'btn btn-plain',
            label: t`Screens`,
            content: <Menu size={16} aria-hidden />,
            around: 'folded',
          }}
          load={loadPlaces}
          props={{
            places: [
              ...PLACES.map(([path, label]) => [addressOf(path), label] as const),
              ['history', t`History`],
            ],
          }}
        />
        <nav aria-label={t`Screens`}>
          {PLACES.map(([path, label]) => (
            <NavLink key={path} to={addressOf(path)}>
              {label}
            </NavLink>
          ))}
        </nav>
        <div className="right">
          <WayBackLink within={`/books/${booksId}/`} />
          <button type="button" className="jump-to" onClick={() => setIsJumping(true)}>
            {tx`Jump to… ${<kbd>{t`Ctrl K`}</kbd>}`}
          </button>
          <nav aria-label={t`History`}>
            <NavLink to="history">{t`History`}</NavLink>
          </nav>
          <UserMenu />
        </div>
      </header>
      {isLost ? (
        <main className="page">
          <ErrorNote error={error} />
        </main>
      ) : shown ? (
        <BooksContext value={shown}>
          <PressCounter />
          {asked !== null && <TurnDialog asked={asked} />}
          {isJumping && <JumpDialog onClose={() => setIsJumping(false)} />}
          <Suspense>
            <Outlet />
          </Suspense>
        </BooksContext>
      ) : (
        <Waiting what={t`the books`} />
      )}
    </div>
  );
}

/** Counts what is pressed while books are open; shows nothing. */
function PressCounter() {
  useEffect(countPresses, []);
  return null;
}
