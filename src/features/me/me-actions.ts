'use server'

import { getSteppe, type Steppe } from '@/server/engine/steppe'
import { FORM, TEXT } from '@/server/session/argument-shapes'
import { findDoer } from '@/server/session/doer'
import { merchantAction } from '@/server/session/permit'
import {
  beginSecondFactor,
  changeOwnPassword,
  confirmSecondFactor,
  endOtherWindows,
  endSecondFactor,
} from '@/server/staff/own-account'
import { doorSentence } from '@/ui/format/door-sentences'
import { currentAuthor } from '@/server/session/author'
import { signOutPerson } from '@/server/staff/sign-in'
import { refresh } from 'next/cache'
import { redirect } from 'next/navigation'
import { renderSVG } from 'uqr'

export type OwnOutcome = { readonly ok: true } | { readonly ok: false; readonly problem: string }

/** What is shown once while a second factor is set up. */
export type BegunFactor =
  | { readonly ok: true; readonly picture: string; readonly key: string; readonly spare: readonly string[] }
  | { readonly ok: false; readonly problem: string }

const NOT_YOURS = 'That is not your password.'
const NOBODY: OwnOutcome = { ok: false, problem: 'Nobody is asked who they are in this demo.' }

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
    if (!own) return { ok: false, problem: NOBODY.ok ? '' : NOBODY.problem }
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
