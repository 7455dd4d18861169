export type Theme = 'light' | 'dark' | 'system';

const KEY = 'nachlauf-theme';

export function storedTheme(): Theme {
  const stored = localStorage.getItem(KEY);
  return stored === 'light' || stored === 'dark' ? stored : 'system';
}

/** Puts a theme into force and remembers it. */
export function applyTheme(theme: Theme): void {
  if (theme === 'system') {
    localStorage.removeItem(KEY);
  } else {
    localStorage.setItem(KEY, theme);
  }
  const dark = theme === 'dark' || (theme === 'system' && matchMedia('(prefers-color-scheme: dark)').matches);
  document.documentElement.dataset.bsTheme = dark ? 'dark' : 'light';
}
