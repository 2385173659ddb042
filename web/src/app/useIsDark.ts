import { useSyncExternalStore } from 'react';

/** Whether the dark theme is shown, also after it was changed. */
export function useIsDark(): boolean {
  return useSyncExternalStore(watchTheme, isDark);
}

function isDark(): boolean {
  return document.documentElement.dataset.bsTheme === 'dark';
}

function watchTheme(onChange: () => void): () => void {
  const observer = new MutationObserver(onChange);
  observer.observe(document.documentElement, { attributeFilter: ['data-bs-theme'] });
  return () => observer.disconnect();
}
