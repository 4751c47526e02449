'use server'

import { isEmail } from '@/core/buyers/email'
import { getSteppe } from '@/server/engine/steppe'
import { FORM, PASSKEY_SIGNED, TEXT, THING } from '@/server/session/argument-shapes'
import { openAction } from '@/server/session/permit'
import { beginPasskeySignIn, signInByPasskey } from '@/server/staff/passkeys'
import {
  askForPassword,
  becomeOwner,
  giveSecondFactor,
  setPasswordByLink,
  signInPerson,
} from '@/server/staff/sign-in'
import type {
  AuthenticationResponseJSON,
  PublicKeyCredentialRequestOptionsJSON,
} from '@simplewebauthn/server'
import { redirect } from 'next/navigation'
import { backTo } from './back'
import { doorSentence } from '@/ui/format/door-sentences'

/** What a form says to whoever filled it in; what they typed stays, except for passwords. */
export interface DoorState {
  /** By the field's name; empty for the whole form. */
  readonly problem: { readonly field: string; readonly words: string } | null
  readonly typed: Readonly<Record<string, string>>
  /** What was done, where the form stays. */
  readonly told?: string
}

const SHAPES = [THING, FORM]

export const signIn = openAction(
  'signs in',
  SHAPES,
  async (_before: DoorState, form: FormData): Promise<DoorState> => {
    const { text, wrong } = reading(form)
    if (text('email') === '') return wrong('email', 'Type the e-mail address you were invited at.')
    if (text('password') === '') return wrong('password', 'Type your password.')
    const came = await signInPerson(await getSteppe(), text('email'), text('password'))
    if (!came.ok)
      return wrong(
        came.code === 'wrong' ? 'password' : 'email',
        doorSentence(came, 'That is not the password of this address.'),
      )
    const back = new URLSearchParams({ back: backTo(text('back')) })
    redirect(came.needs === 'second-factor' ? `/sign-in/second?${back}` : backTo(text('back')))
  },
)

export const askForPasskey = openAction(
  'signs in',
  [],
  async (): Promise<PublicKeyCredentialRequestOptionsJSON> => beginPasskeySignIn(await getSteppe()),
)

export const signInWithPasskey = openAction(
  'signs in',
  [PASSKEY_SIGNED, TEXT],
  async (response: AuthenticationResponseJSON, back: string): Promise<{ readonly problem: string }> => {
    const came = await signInByPasskey(await getSteppe(), response)
    if (!came.ok)
      return {
        problem: doorSentence(came, 'This passkey opens nothing here. Sign in with your password instead.'),
      }
    redirect(backTo(back))
  },
)

export const giveSecond = openAction(
  'the second half of signing in',
  SHAPES,
  async (_before: DoorState, form: FormData): Promise<DoorState> => {
    const { text, wrong } = reading(form)
    if (text('code') === '') return wrong('code', 'Type the six digits your app shows.')
    const came = await giveSecondFactor(await getSteppe(), text('code'))
    if (!came.ok)
      return wrong(
        'code',
        doorSentence(came, 'That is not the code of this moment. It changes every 30 seconds.'),
      )
    redirect(backTo(text('back')))
  },
)

export const askPassword = openAction(
  'for whoever cannot sign in',
  SHAPES,
  async (_before: DoorState, form: FormData): Promise<DoorState> => {
    const { text, wrong } = reading(form)
    if (!isEmail(text('email'))) return wrong('email', 'Type your e-mail address, such as nora@example.org.')
    const asked = await askForPassword(await getSteppe(), text('email'))
    if (!asked.ok) return wrong('email', doorSentence(asked, ''))
    return {
      ...{ problem: null, typed: { email: text('email') } },
      told: `If ${text('email')} works here, a mail is on its way with a link. It is good for an hour.`,
    }
  },
)

export const setPassword = openAction(
  'by a mailed link',
  SHAPES,
  async (_before: DoorState, form: FormData): Promise<DoorState> => {
    const { text, wrong } = reading(form)
    if (text('password') !== text('again')) return wrong('again', 'The two are not the same.')
    const set = await setPasswordByLink(await getSteppe(), text('word'), text('password'))
    if (!set.ok) return wrong(set.code === 'link-gone' ? '' : 'password', doorSentence(set, ''))
    redirect('/sign-in?set=1')
  },
)

export const startAsOwner = openAction(
  'the first person of an installation',
  SHAPES,
  async (_before: DoorState, form: FormData): Promise<DoorState> => {
    const { text, wrong } = reading(form)
    const own = { code: text('code'), name: text('name'), email: text('email'), password: text('password') }
    if (own.code === '') return wrong('code', 'Type the code that stands in the terminal.')
    if (own.name === '') return wrong('name', 'Type your name: it stands beside what you change.')
    if (!isEmail(own.email)) return wrong('email', 'Type your e-mail address, such as nora@example.org.')
    const came = await becomeOwner(await getSteppe(), own)
    if (!came.ok)
      return wrong(
        came.code === 'wrong' || came.code === 'too-many' ? 'code' : 'password',
        doorSentence(came, 'That is not the code. It stands in the terminal where Steppe was started last.'),
      )
    redirect('/board')
  },
)

function reading(form: FormData) {
  const text = (name: string) => {
    const value = String(form.get(name) ?? '')
    return name === 'password' || name === 'again' ? value : value.trim()
  }
  const typed = Object.fromEntries(
    ['email', 'name', 'back'].filter((name) => form.has(name)).map((name) => [name, text(name)]),
  )
  return {
    text,
    wrong: (field: string, words: string): DoorState => ({ problem: { field, words }, typed }),
  }
}
