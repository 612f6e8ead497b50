const THEMES = ['neutral', 'dim', 'light'] as const
const STORE = 'wavelume-theme'

/**
 * Theme of the chrome, remembered by this browser: neutral for judging colour, dim for dark rooms, light for
 * bright ones.
 */
export function useTheme() {
  const theme = useState<(typeof THEMES)[number]>(
    'theme',
    () => THEMES.find(t => t === localStorage.getItem(STORE)) ?? 'neutral',
  )
  watch(
    theme,
    t => {
      document.documentElement.dataset.theme = t
      localStorage.setItem(STORE, t)
    },
    { immediate: true },
  )
  return {
    theme,
    next: () => {
      theme.value = THEMES[(THEMES.indexOf(theme.value) + 1) % THEMES.length]!
    },
  }
}
