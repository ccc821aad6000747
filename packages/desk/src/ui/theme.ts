/** Light or dark: what the person chose here, else what the system says. */
import { readPref, writePref } from '../session/keep/prefs.ts';

const KEY = 'apple-tick-theme';

export function applyTheme(): void {
  const chosen = readPref(KEY);
  const dark = chosen ? chosen === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches;
  document.documentElement.dataset['theme'] = dark ? 'dark' : 'light';
}

export function toggleTheme(): void {
  writePref(KEY, document.documentElement.dataset['theme'] === 'dark' ? 'light' : 'dark');
  applyTheme();
}
