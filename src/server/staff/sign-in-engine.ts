import 'server-only'

import {
  staff,
  staffCredentials,
  staffSessions,
  staffTwoFactors,
  staffVerifications,
} from '../database/staff-schema'
import type { Steppe } from '../engine/steppe'
import { isBehindTls } from '../doors/outer-door'
import { wakeMails } from '../mails/queue-mail'
import { queuePasswordMail } from './password-mail'
import { digestPassword, isPasswordOf, LONGEST_PASSWORD, SHORTEST_PASSWORD } from './passwords'
import { secretWord } from './secret-words'

const HOURS = 60 * 60
/** A working day: whoever signed in before that signs in again. */
const SESSION_HOURS = 12
const LINK_HOURS = 1

/** What signs the merchant's people in: passwords, second factors, and sessions in the database. Its own addresses are not served. */
type SignInEngine = Awaited<ReturnType<typeof makeEngine>>

const ENGINES = new WeakMap<Steppe, Promise<SignInEngine>>()

export function signInEngine(steppe: Steppe): Promise<SignInEngine> {
  const known = ENGINES.get(steppe)
  if (known) return known
  const made = secretWord(steppe.database, 'sign-in').then((secret) => makeEngine(steppe, secret))
  ENGINES.set(steppe, made)
  return made
}

async function makeEngine(steppe: Steppe, secret: string) {
  // Whoever never signs anybody in need not load it.
  const [{ betterAuth }, { drizzleAdapter }, { nextCookies }, { twoFactor }] = await Promise.all([
    import('better-auth'),
    import('better-auth/adapters/drizzle'),
    import('better-auth/next-js'),
    import('better-auth/plugins'),
  ])
  const address = process.env['STEPPE_ADDRESS'] ?? 'http://127.0.0.1:4000'
  return betterAuth({
    appName: 'Steppe',
    secret,
    baseURL: address,
    telemetry: { enabled: false },
    logger: { disabled: true },
    database: drizzleAdapter(steppe.database, {
      provider: 'pg',
      schema: {
        user: staff,
        session: staffSessions,
        account: staffCredentials,
        verification: staffVerifications,
        twoFactor: staffTwoFactors,
      },
    }),
    user: { additionalFields: { role: { type: 'string', required: true, input: false } } },
    session: { expiresIn: SESSION_HOURS * HOURS, disableSessionRefresh: true },
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      minPasswordLength: SHORTEST_PASSWORD,
      maxPasswordLength: LONGEST_PASSWORD,
      revokeSessionsOnPasswordReset: true,
      resetPasswordTokenExpiresIn: LINK_HOURS * HOURS,
      password: {
        hash: digestPassword,
        verify: ({ hash, password }) => isPasswordOf(hash, password),
      },
      sendResetPassword: async ({ user, token }) => {
        await queuePasswordMail(steppe, user, token, 'lost')
        wakeMails(steppe)
      },
    },
    // Tries are counted in the database, by account and by address: see `door-tries.ts`.
    rateLimit: { enabled: false },
    advanced: {
      cookiePrefix: 'steppe',
      useSecureCookies: isBehindTls(address),
      defaultCookieAttributes: { sameSite: 'lax', httpOnly: true },
    },
    plugins: [twoFactor({ issuer: 'Steppe' }), nextCookies()],
  })
}
