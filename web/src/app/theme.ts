/** Light, dark, or as the machine is set. */
export type Theme = 'light' | 'dark' | 'machine';

const KEY = 'zubrell-theme';
const machineIsDark = window.matchMedia('(prefers-color-scheme: dark)');

/** The theme this browser was last set to. */
export function storedTheme(): Theme {
  const stored = localStorage.getItem(KEY);
  return stored === 'light' || stored === 'dark' ? stored : 'machine';
}

/** Shows a theme and remembers it for this browser. */
export function applyTheme(theme: Theme): void {
  localStorage.setItem(KEY, theme);
  const isDark = theme === 'dark' || (theme === 'machine' && machineIsDark.matches);
  document.documentElement.dataset.bsTheme = isDark ? 'dark' : 'light';
}

machineIsDark.addEventListener('change', () => applyTheme(storedTheme()));
