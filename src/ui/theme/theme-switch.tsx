'use client'

import { IconMoon, IconSun } from '@tabler/icons-react'
import { THEME_COOKIE, type Theme } from './theme'

const YEAR = 31_536_000

/** Turns the page over to the other theme and remembers it. */
export function switchTheme(): void {
  const root = document.documentElement
  const dark = root.dataset['theme']
    ? root.dataset['theme'] === 'plain-night'
    : matchMedia('(prefers-color-scheme: dark)').matches
  const next: Theme = dark ? 'plain-day' : 'plain-night'
  root.dataset['theme'] = next
  document.cookie = `${THEME_COOKIE}=${next};path=/;max-age=${YEAR};samesite=lax`
}

export function ThemeSwitch() {
  return (
    <button
      type="button"
      aria-label="Switch between light and dark"
      className="text-soft hover:text-base-content"
      onClick={switchTheme}
    >
      <IconSun size={16} stroke={1.75} aria-hidden className="dark-only" />
      <IconMoon size={16} stroke={1.75} aria-hidden className="light-only" />
    </button>
  )
}
