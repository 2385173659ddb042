import { t } from '@zubrell/core/words/t';
import { Suspense, useEffect } from 'react';
import { Navigate, Outlet, useLocation } from 'react-router';
import { sessionApi } from '../api/session.ts';
import { ErrorNote } from '../ui/ErrorNote.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { applyLocale } from './formats.ts';
import { TodayContext } from './useToday.ts';

/** When the first screen has stood for so long, in milliseconds, those that are gone to next are fetched. */
const SOON = 2_000;

/** Fetches the screens of everyday work while nothing else is to be done. */
function useWorkAhead(): void {
  useEffect(() => {
    const timer = setTimeout(() => {
      void import('./BooksShell.tsx');
      void import('../screens/board/BoardScreen.tsx');
      void import('../screens/desk/DeskScreen.tsx');
    }, SOON);
    return () => clearTimeout(timer);
  }, []);
}

/** Lets only signed-in people further; others sign in and come back to where they wanted. */
export function SignedIn() {
  const { data: session, error } = sessionApi.useSessionQuery();
  const { pathname, search } = useLocation();
  useWorkAhead();
  if (error) return <ErrorNote error={error} />;
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
