import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { useRouteError } from 'react-router';
import { EmptyState } from '../ui/EmptyState.tsx';

/** What is shown when a screen can't be drawn: what was kept, and how to go on. */
export function CrashScreen() {
  const error = useRouteError();
  return (
    <main className="page">
      <EmptyState title={t`This screen couldn’t be shown`}>
        <p>{t`Your work is saved and nothing was changed. Reload the page.`}</p>
        <Button variant="main" onClick={() => window.location.reload()}>
          {t`Reload page`}
        </Button>
        <p className="quiet mt-3">{error instanceof Error ? error.message : ''}</p>
      </EmptyState>
    </main>
  );
}
