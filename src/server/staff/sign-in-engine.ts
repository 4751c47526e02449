import 'server-only'

import {
  staff,
  staffCredentials,
  staffPasskeys,
  staffSessions,
  staffTwoFactors,
  staffVerifications,
} from '../database/staff-schema'
import type { Steppe } from '../engine/steppe'
import { isBehindTls } from '../doors/outer-door'
import { wakeMails } from '../mails/queue-mail'
import { ownAddress, passkeyHost } from '../doors/own-address'
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
  const [{ betterAuth }, { APIError }, { drizzleAdapter }, { nextCookies }, { twoFactor }, { passkey }] =
    await Promise.all([
      import('better-auth'),
      import('better-auth/api'),
      import('better-auth/adapters/drizzle'),
      import('better-auth/next-js'),
      import('better-auth/plugins'),
      import('@better-auth/passkey'),
    ])
  const address = ownAddress()
  const mustBeVerified = (isVerified: boolean | undefined) => {
    if (isVerified !== true) throw new APIError('UNAUTHORIZED')
  }
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
        passkey: staffPasskeys,
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
    plugins: [
      twoFactor({ issuer: 'Steppe' }),
      passkey({
        rpName: 'Steppe',
        rpID: passkeyHost(),
        // It stands for the password and the second factor at once, so the device has to ask who holds it.
        authenticatorSelection: { residentKey: 'required', userVerification: 'required' },
        registration: {
          afterVerification: ({ verification }) =>
            mustBeVerified(verification.registrationInfo?.userVerified),
        },
        authentication: {
          afterVerification: ({ verification }) =>
            mustBeVerified(verification.authenticationInfo.userVerified),
        },
      }),
      nextCookies(),
    ],
  })
}
