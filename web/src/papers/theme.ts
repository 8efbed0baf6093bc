const key = 'nachlass.theme';

type Theme = 'day' | 'night' | 'system';

export function chosenTheme(): Theme {
  const kept = localStorage.getItem(key);
  return kept === 'day' || kept === 'night' ? kept : 'system';
}

export function chooseTheme(theme: Theme): void {
  if (theme === 'system') localStorage.removeItem(key);
  else localStorage.setItem(key, theme);
  applyTheme();
}

export function applyTheme(): void {
  const theme = chosenTheme();
  const night = theme === 'night' || (theme === 'system' && matchMedia('(prefers-color-scheme: dark)').matches);
  document.documentElement.dataset['theme'] = night ? 'night' : 'day';
}

matchMedia('(prefers-color-scheme: dark)').addEventListener('change', applyTheme);
