import '@fontsource/ibm-plex-mono/latin-400.css';
import '@fontsource/ibm-plex-sans/latin-400.css';
import '@fontsource/ibm-plex-sans/latin-500.css';
import '@fontsource/ibm-plex-sans/latin-600.css';
import './styles/theme.scss';
import './styles/app.scss';
import { lazy, StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { BrowserRouter } from 'react-router';
import { reloadWhenOld } from './app/reloadWhenOld.ts';
import { fetchScreens, Routes } from './app/routes.tsx';
import { makeStore } from './app/store.ts';
import { applyTheme, storedTheme } from './app/theme.ts';

const Toaster = lazy(() => import('sonner').then(({ Toaster: shown }) => ({ default: shown })));

applyTheme(storedTheme());
reloadWhenOld();
const root = document.getElementById('root');
if (root === null) throw new Error('the page has no root');
const shown = createRoot(root);
const web = (
  <StrictMode>
    <Provider store={makeStore()}>
      <BrowserRouter>
        <Routes />
      </BrowserRouter>
      <Suspense>
        <Toaster
          position="bottom-center"
          duration={8_000}
          offset={{ bottom: 'var(--toast-bottom)' }}
          visibleToasts={3}
        />
      </Suspense>
    </Provider>
  </StrictMode>
);
// What is there when it is first drawn needs no waiting in between.
void fetchScreens(window.location.pathname).then(() => shown.render(web));
