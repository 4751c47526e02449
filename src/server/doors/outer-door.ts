/**
 * What every request is asked before anything else looks at it: whether it was meant for this server, and whether
 * another site's page sent it. Pure, so that it is tested without a server.
 */
import { ownAddress } from './own-address'

/** What the door looks at. */
export interface Knock {
  readonly method: string
  /** As it stands in the request, percent signs and all. */
  readonly path: string
  readonly header: (name: string) => string | null
}

/** Why a request goes no further, and with which status. */
export interface TurnedAway {
  readonly status: 400 | 403 | 415 | 421
  readonly code: 'malformed-address' | 'foreign-site' | 'not-json' | 'unknown-host'
  readonly message: string
}

/** Names a browser on this machine knows it by, whatever the port. */
const OWN_NAMES = ['localhost', '127.0.0.1', '[::1]']

/** The names this server answers to: its own, and those in `STEPPE_HOSTS`, between commas. */
export function allowedHosts(setting: string | undefined): ReadonlySet<string> {
  const others = (setting ?? '').split(',').map((name) => name.trim().toLowerCase())
  return new Set([...OWN_NAMES, ...others.filter(Boolean)])
}

/** Whether a request came by a name that only this machine knows it by. */
export function isLoopbackHost(host: string): boolean {
  return OWN_NAMES.includes(hostName(host))
}

/** Methods that change nothing. */
const READING = new Set(['GET', 'HEAD', 'OPTIONS'])

/** How actions of pages are called. */
const ACTION = /^[0-9a-f]{40,64}$/

/** A body of a kind that no page of another site can send without asking first. */
const TAKEN_BODIES = /^(application\/(json|octet-stream|vnd\.[a-z0-9.+-]+)|text\/csv)\b/i

/**
 * Lets a request in, or says why not.
 *
 * Errors  `unknown-host` for a name that is not this server's (a page elsewhere may point its own name here),
 *         `foreign-site` for a write another site's page sent, `not-json` for a write to the interface in a form that
 *         any page can send, `malformed-address` for a path whose percent signs mean nothing.
 */
export function judge({ method, path, header }: Knock, hosts: ReadonlySet<string>): TurnedAway | null {
  if (!isReadable(path))
    return turnAway(400, 'malformed-address', 'This address has a percent sign that stands for nothing.')
  for (const name of ['host', 'x-forwarded-host'] as const) {
    const value = header(name)
    if (value === null ? name === 'host' : !hosts.has(hostName(value)) && !hosts.has(value.toLowerCase()))
      return turnAway(
        421,
        'unknown-host',
        `This server is not called “${(value ?? '').slice(0, 100)}”. Name it in STEPPE_HOSTS if it is meant to be.`,
      )
  }
  if (READING.has(method)) return null
  const action = header('next-action')
  if (action !== null && !ACTION.test(action))
    return turnAway(400, 'malformed-address', 'There is no such action.')
  if (isForeign(header))
    return turnAway(403, 'foreign-site', 'Another site’s page sent this; nothing was done.')
  if (path.startsWith('/api/') && !TAKEN_BODIES.test(header('content-type') ?? 'application/json'))
    return turnAway(415, 'not-json', 'Send application/json, or text/csv and workbooks to be imported.')
  return null
}

function turnAway(status: TurnedAway['status'], code: TurnedAway['code'], message: string): TurnedAway {
  return { status, code, message }
}

function isReadable(path: string): boolean {
  try {
    return !decodeURIComponent(path).includes('\0')
  } catch {
    return false
  }
}

/** A host without its port. */
function hostName(host: string): string {
  return host.toLowerCase().replace(/:\d+$/, '')
}

/** Browsers say where a write comes from; programs that are no browsers need not. */
function isForeign(header: Knock['header']): boolean {
  const site = header('sec-fetch-site')
  if (site !== null && site !== 'same-origin' && site !== 'none') return true
  const origin = header('origin')
  if (origin === null) return false
  return !URL.canParse(origin) || new URL(origin).host !== (header('host') ?? '').toLowerCase()
}

/** Whether browsers come by TLS, as the address says that stands in links. */
export function isBehindTls(address = ownAddress()): boolean {
  return address.startsWith('https:')
}

/**
 * What every answer says to the browser. `nonce` lets the scripts of this very page run and no others; where TLS is used, a browser never
 * comes without it again.
 */
export function securityHeaders(
  nonce: string,
  { isDevelopment = false, isSecure = false } = {},
): Readonly<Record<string, string>> {
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}'${isDevelopment ? " 'unsafe-eval'" : ''}`,
    // Positions of rows and bars are style attributes.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    `connect-src 'self'${isDevelopment ? ' ws:' : ''}`,
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ]
  return {
    'content-security-policy': policy.join('; '),
    'x-content-type-options': 'nosniff',
    'x-frame-options': 'DENY',
    'referrer-policy': 'same-origin',
    'cross-origin-opener-policy': 'same-origin',
    'permissions-policy': 'camera=(), geolocation=(), microphone=()',
    ...(isSecure && { 'strict-transport-security': 'max-age=31536000' }),
  }
}

/** The merchant's side or the shop's: actions of one are not to be had from the pages of the other. */
export type Side = 'merchant' | 'shop'

export const SIDE_HEADER = 'x-steppe-side'

/** The address that was asked for, to come back to after signing in. */
export const PATH_HEADER = 'x-steppe-path'

/** What a request is called in the log and in its answer. */
export const REQUEST_ID_HEADER = 'x-request-id'

/** What a request is called: as whoever passed it on calls it, if that is a plain word, else a new one. */
export function requestId(given: string | null, make: () => string): string {
  return given !== null && /^[\w-]{8,64}$/.test(given) ? given : make()
}

/** The draft the page looks through that a request came from, as its address has it. */
export const DRAFT_HEADER = 'x-steppe-draft'

export function sideOf(path: string): Side {
  return /^\/(api\/)?shop(\/|$)/.test(path) ? 'shop' : 'merchant'
}
