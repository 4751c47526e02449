'use server'

import { getSteppe, type Steppe } from '@/server/engine/steppe'
import { FORM, PASSKEY_MADE, TEXT } from '@/server/session/argument-shapes'
import { findDoer } from '@/server/session/doer'
import { merchantAction } from '@/server/session/permit'
import {
  beginSecondFactor,
  changeOwnPassword,
  confirmSecondFactor,
  endOtherWindows,
  endSecondFactor,
} from '@/server/staff/own-account'
import { beginPasskey, keepPasskey, LONGEST_PASSKEY_NAME, removePasskey } from '@/server/staff/passkeys'
import { doorSentence } from '@/ui/format/door-sentences'
import { currentAuthor } from '@/server/session/author'
import { signOutPerson } from '@/server/staff/sign-in'
import type { PublicKeyCredentialCreationOptionsJSON, RegistrationResponseJSON } from '@simplewebauthn/server'
import { refresh } from 'next/cache'
import { redirect } from 'next/navigation'
import { renderSVG } from 'uqr'

export type OwnOutcome = { readonly ok: true } | { readonly ok: false; readonly problem: string }

/** What is shown once while a second factor is set up. */
export type BegunFactor =
  | { readonly ok: true; readonly picture: string; readonly key: string; readonly spare: readonly string[] }
  | { readonly ok: false; readonly problem: string }

/** What a browser is asked to make a passkey from. */
export type BegunPasskey =
  | { readonly ok: true; readonly options: PublicKeyCredentialCreationOptionsJSON }
  | { readonly ok: false; readonly field: 'name' | 'password'; readonly problem: string }

const NOT_YOURS = 'That is not your password.'
const NOBODY = { ok: false, problem: 'Nobody is asked who they are in this demo.' } as const

export const changePassword = merchantAction(
  'prices:look',
  [TEXT, TEXT],
  (current: string, next: string): Promise<OwnOutcome> =>
    asOwn(async (steppe, own) => {
      const set = await changeOwnPassword(steppe, own, { current, next })
      return set.ok ? set : { ok: false, problem: doorSentence(set, NOT_YOURS) }
    }),
)

export const beginFactor = merchantAction(
  'prices:look',
  [TEXT],
  async (password: string): Promise<BegunFactor> => {
    const own = await ownNow()
    if (!own) return NOBODY
    const begun = await beginSecondFactor(await getSteppe(), own, password)
    if (!begun.ok) return { ok: false, problem: doorSentence(begun, NOT_YOURS) }
    const key = new URL(begun.address).searchParams.get('secret') ?? ''
    return { ok: true, picture: renderSVG(begun.address), key, spare: begun.spare }
  },
)

export const confirmFactor = merchantAction('prices:look', [TEXT], (code: string): Promise<OwnOutcome> =>
  asOwn(async (steppe, own) => {
    const set = await confirmSecondFactor(steppe, own, code)
    return set.ok
      ? set
      : {
          ok: false,
          problem: doorSentence(set, 'That is not the code of this moment. It changes every 30 seconds.'),
        }
  }),
)

export const endFactor = merchantAction('prices:look', [TEXT], (password: string): Promise<OwnOutcome> =>
  asOwn(async (steppe, own) => {
    const set = await endSecondFactor(steppe, own, password)
    return set.ok ? set : { ok: false, problem: doorSentence(set, NOT_YOURS) }
  }),
)

export const startPasskey = merchantAction(
  'prices:look',
  [TEXT, TEXT],
  async (name: string, password: string): Promise<BegunPasskey> => {
    const own = await ownNow()
    if (!own) return { ok: false, field: 'name', problem: NOBODY.problem }
    const fault = nameFault(name)
    if (fault) return { ok: false, field: 'name', problem: fault }
    const begun = await beginPasskey(await getSteppe(), own, password)
    return begun.ok ? begun : { ok: false, field: 'password', problem: doorSentence(begun, NOT_YOURS) }
  },
)

export const addPasskey = merchantAction(
  'prices:look',
  [TEXT, PASSKEY_MADE],
  (name: string, response: RegistrationResponseJSON): Promise<OwnOutcome> =>
    asOwn(async (steppe, own) => {
      const fault = nameFault(name)
      if (fault) return { ok: false, problem: fault }
      return (await keepPasskey(steppe, own, name.trim(), response))
        ? { ok: true }
        : { ok: false, problem: 'The device did not say who holds it, or it took too long. Try again.' }
    }),
)

export const dropPasskey = merchantAction('prices:look', [TEXT], (id: string): Promise<OwnOutcome> =>
  asOwn(async (steppe, own) =>
    (await removePasskey(steppe, own, id)) ? { ok: true } : { ok: false, problem: 'This passkey is gone.' },
  ),
)

function nameFault(name: string): string | null {
  const length = name.trim().length
  if (length === 0) return 'Give it a name you know it by, such as “Laptop at work”.'
  return length > LONGEST_PASSKEY_NAME ? `A name has at most ${LONGEST_PASSKEY_NAME} characters.` : null
}

export const signOutElsewhere = merchantAction('prices:look', [], (): Promise<OwnOutcome> =>
  asOwn(async (steppe) => {
    await endOtherWindows(steppe)
    return { ok: true }
  }),
)

export const signOut = merchantAction('prices:look', [FORM], async (_form: FormData): Promise<never> => {
  await signOutPerson(await getSteppe(), await currentAuthor())
  redirect('/sign-in')
})

interface Own {
  readonly id: string
  readonly name: string
  readonly email: string
}

async function ownNow(): Promise<Own | null> {
  const doer = await findDoer()
  return doer?.kind === 'person' && doer.id !== null
    ? { id: doer.id, name: doer.name, email: doer.email }
    : null
}

async function asOwn(act: (steppe: Steppe, own: Own) => Promise<OwnOutcome>): Promise<OwnOutcome> {
  const own = await ownNow()
  if (!own) return NOBODY
  const outcome = await act(await getSteppe(), own)
  if (outcome.ok) refresh()
  return outcome
}
