/** The light that pages are read by: one of the two palettes, or the one that the computer asks for. */
export type Theme = 'paper' | 'lamplight' | 'system'

const storageKey = 'theme'
const dark = window.matchMedia('(prefers-color-scheme: dark)')

export const chosenTheme = (): Theme => {
  const stored = localStorage.getItem(storageKey)
  return stored === 'paper' || stored === 'lamplight' ? stored : 'system'
}
const systemTheme = (): Theme => (dark.matches ? 'lamplight' : 'paper')
const apply = (): void => {
  const theme = chosenTheme()
  document.documentElement.dataset.theme = theme === 'system' ? systemTheme() : theme
}

export const setTheme = (theme: Theme): void => {
  if (theme === 'system') localStorage.removeItem(storageKey)
  else localStorage.setItem(storageKey, theme)
  apply()
}

/** Puts the page into its theme, and keeps it there when the computer changes its own. */
export const followTheme = (): void => {
  apply()
  dark.addEventListener('change', apply)
}
