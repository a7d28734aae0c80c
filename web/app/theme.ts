export const THEMES = ['system', 'light', 'dark'] as const;
export type Theme = (typeof THEMES)[number];
const KEY = 'ojo-theme';

const system = window.matchMedia('(prefers-color-scheme: dark)');

export function chosenTheme(): Theme {
  const kept = localStorage.getItem(KEY);
  return THEMES.find((theme) => theme === kept) ?? 'system';
}

export function chooseTheme(theme: Theme): void {
  localStorage.setItem(KEY, theme);
  show();
}

/** Shows the chosen theme, and follows the system where none was chosen. */
export function startTheme(): void {
  show();
  system.addEventListener('change', show);
}

function show(): void {
  const theme = chosenTheme();
  const ofSystem = system.matches ? 'dark' : 'light';
  document.documentElement.dataset.bsTheme = theme === 'system' ? ofSystem : theme;
}
