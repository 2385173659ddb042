import { isFetchedAhead } from '../ui/late.tsx';

/** Where it is kept when a window was loaded again for this, and how long that counts, in milliseconds. */
const KEY = 'zubrell-loaded-again';
const ONCE_IN = 60_000;

/**
 * Loads the window again when a screen can't be fetched: most likely a new version was put up since it was opened, and
 * what it asks for is gone. Once only; what fails again says so itself. What is only fetched ahead takes nobody's work away.
 */
export function reloadWhenOld(reload: () => void = () => window.location.reload()): () => void {
  const onFailure = (event: Event): void => {
    if (isFetchedAhead()) return;
    const last = Number(sessionStorage.getItem(KEY) ?? 0);
    if (Date.now() - last < ONCE_IN) return;
    sessionStorage.setItem(KEY, String(Date.now()));
    event.preventDefault();
    reload();
  };
  window.addEventListener('vite:preloadError', onFailure);
  return () => window.removeEventListener('vite:preloadError', onFailure);
}
