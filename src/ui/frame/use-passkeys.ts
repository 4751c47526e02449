'use client'

import { useReady } from './use-ready'
import { browserSupportsWebAuthn, WebAuthnError } from '@simplewebauthn/browser'

/**
 * Whether passkeys of a name work in this window: its browser must know of them, and the page must have been opened by that name or one
 * below it. `null` until the page answers.
 */
export function usePasskeys(host: string): 'work' | 'other-name' | 'unknown-to-browser' | null {
  if (!useReady()) return null
  const { hostname } = window.location
  if (hostname !== host && !hostname.endsWith(`.${host}`)) return 'other-name'
  return browserSupportsWebAuthn() ? 'work' : 'unknown-to-browser'
}

/** Whether whoever was asked for a passkey did not give one, or their browser has none. */
export function isPasskeyRefusal(error: unknown): boolean {
  return error instanceof WebAuthnError || (error instanceof Error && error.name === 'NotAllowedError')
}
