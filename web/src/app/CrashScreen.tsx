import { Button } from 'react-bootstrap';
import { useRouteError } from 'react-router';
import { EmptyState } from '../ui/EmptyState.tsx';

/** What is shown when a screen can't be drawn: what was kept, and how to go on. */
export function CrashScreen() {
  const error = useRouteError();
  return (
    <main className="page">
      <EmptyState title="This screen could not be shown">
        <p>What you did before is kept, and nothing was changed by this. Load the page again.</p>
        <Button variant="main" onClick={() => window.location.reload()}>
          Load it again
        </Button>
        <p className="quiet mt-3">{error instanceof Error ? error.message : ''}</p>
      </EmptyState>
    </main>
  );
}
