import '@fontsource/ibm-plex-mono/latin-400.css';
import '@fontsource/ibm-plex-sans/latin-400.css';
import '@fontsource/ibm-plex-sans/latin-500.css';
import '@fontsource/ibm-plex-sans/latin-600.css';
import './styles/theme.scss';
import './styles/app.scss';
import { lazy, StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { RouterProvider } from 'react-router';
import { reloadWhenOld } from './app/reloadWhenOld.ts';
import { router } from './app/router.tsx';
import { makeStore } from './app/store.ts';
import { applyTheme, storedTheme } from './app/theme.ts';

const Toaster = lazy(() => import('sonner').then(({ Toaster: shown }) => ({ default: shown })));

applyTheme(storedTheme());
reloadWhenOld();
const root = document.getElementById('root');
if (root === null) throw new Error('the page has no root');
createRoot(root).render(
  <StrictMode>
    <Provider store={makeStore()}>
      <RouterProvider router={router} />
      <Suspense>
        <Toaster
          position="bottom-center"
          duration={8_000}
          offset={{ bottom: 'var(--toast-bottom)' }}
          visibleToasts={3}
        />
      </Suspense>
    </Provider>
  </StrictMode>,
);
