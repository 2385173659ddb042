import { t } from '@zubrell/core/words/t';
import { Suspense } from 'react';
import { Navigate, Outlet, useLocation } from 'react-router';
import { sessionApi } from '../api/session.ts';
import { ErrorNote } from '../ui/ErrorNote.tsx';
import { useAhead } from '../ui/late.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { applyLocale } from './formats.ts';
import { TodayContext } from './useToday.ts';

const EVERYDAY = [
  () => import('./BooksShell.tsx'),
  () => import('../screens/board/BoardScreen.tsx'),
  () => import('../screens/desk/DeskScreen.tsx'),
];

/** Lets only signed-in people further; others sign in and come back to where they wanted. */
export function SignedIn() {
  const { data: session, error } = sessionApi.useSessionQuery();
  const { pathname, search } = useLocation();
  useAhead(EVERYDAY);
  // What stands and is typed stays where only asking once more failed; here and on the screens below.
  if (error && !session) return <ErrorNote error={error} />;
  if (!session) return <Waiting what={t`your session`} />;
  if (session.user === null) {
    return <Navigate to="/sign-in" state={{ from: pathname + search }} replace />;
  }
  const { locale } = session.user;
  applyLocale(locale);
  return (
    <TodayContext value={session.today}>
      <Suspense>
        <Outlet key={locale} />
      </Suspense>
    </TodayContext>
  );
}
