const THEMES = ['plain-day', 'plain-night'] as const
export type Theme = (typeof THEMES)[number]

/** The cookie that keeps a chosen theme; without it the theme follows the system. */
export const THEME_COOKIE = 'steppe-theme'

export function parseTheme(text: string | undefined): Theme | undefined {
  return THEMES.find((theme) => theme === text)
}
