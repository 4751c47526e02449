import { isIP } from 'node:net'

/** Where browsers find this Steppe, without a slash at the end: it stands in links of mails. */
export function ownAddress(): string {
  return (process.env['STEPPE_ADDRESS'] || 'http://127.0.0.1:4000').replace(/\/$/, '')
}

/**
 * The name passkeys are made for. Browsers take no IP address for one, so that on this machine they work at `localhost` alone (WebAuthn
 * level 3, section 5.1.2: the effective domain must be a valid domain).
 */
export function passkeyHost(): string {
  const { hostname } = new URL(ownAddress())
  return isIP(hostname) !== 0 || hostname.startsWith('[') ? 'localhost' : hostname
}
