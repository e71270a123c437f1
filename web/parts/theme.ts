export type Theme = 'light' | 'dark'

const KEY = 'vestibule-theme'

/** The theme that was chosen in this browser; else the one that the system asks for. */
export function firstTheme(): Theme {
  const kept = typeof localStorage === 'undefined' ? null : localStorage.getItem(KEY)
  if (kept === 'light' || kept === 'dark') return kept
  return typeof matchMedia !== 'undefined' && matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light'
}

export const keepTheme = (theme: Theme): void => localStorage.setItem(KEY, theme)
