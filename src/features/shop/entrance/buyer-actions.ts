'use server'

import { isEmail } from '@/core/buyers/email'
import { getSteppe } from '@/server/engine/steppe'
import { FORM, THING } from '@/server/session/argument-shapes'
import { shopAction } from '@/server/session/permit'
import { enterShop } from '@/server/session/shop-session'
import {
  type BuyerIn,
  enterByLink,
  mailBuyerLink,
  setBuyerPassword,
  signInBuyer,
} from '@/server/shop/buyer-sign-in'
import { doorSentence } from '@/ui/format/door-sentences'
import { redirect } from 'next/navigation'
import { withRoom } from '../frame/with-room'
import { insideShop } from './inside-shop'

/** What a form of the shop's door says; what was typed stays, but for passwords. */
export interface EntranceState {
  readonly problem: { readonly field: string; readonly words: string } | null
  readonly email: string
  /** What was done, where the form stays. */
  readonly told: string
}

const SHAPES = [THING, FORM]

/** Signs a buyer in by their password, or mails them a link, as the button says that was pressed. */
export const enterAsBuyer = shopAction(
  SHAPES,
  async (_before: EntranceState, form: FormData): Promise<EntranceState> => {
    const text = (name: string) => String(form.get(name) ?? '')
    const email = text('email').trim()
    const stay = (field: string, words: string): EntranceState => ({
      ...{ problem: { field, words }, email, told: '' },
    })
    if (!isEmail(email)) return stay('email', 'Write it like name@example.com.')
    const steppe = await getSteppe()
    const by = text('by')
    if (by === 'link' || by === 'password-link') {
      const leads = by === 'link' ? 'in' : 'password'
      const mailed = await withRoom(() =>
        mailBuyerLink(steppe, email, { leads, back: insideShop(text('back')) }),
      )
      if (!mailed.ok) return stay('email', doorSentence(mailed, ''))
      return {
        ...{ problem: null, email },
        told: `If ${email} buys here, a mail is on its way with a link. It is good for half an hour.`,
      }
    }
    if (text('password') === '') return stay('password', 'Type your password, or have a link mailed.')
    const came = await signInBuyer(steppe, email, text('password'))
    if (!came.ok) return stay('password', doorSentence(came, 'That is not the password of this address.'))
    return goIn(came, text('back'))
  },
)

/** Comes in by a mailed link; a click is asked for, since mail programs open links by themselves. */
export const comeByLink = shopAction(
  SHAPES,
  async (_before: EntranceState, form: FormData): Promise<EntranceState> => {
    const came = await enterByLink(await getSteppe(), String(form.get('word') ?? ''))
    if (!came.ok) return { problem: { field: '', words: doorSentence(came, '') }, email: '', told: '' }
    return goIn(came, came.back)
  },
)

/** Sets a password by a mailed link, and comes in. */
export const setShopPassword = shopAction(
  SHAPES,
  async (_before: EntranceState, form: FormData): Promise<EntranceState> => {
    const text = (name: string) => String(form.get(name) ?? '')
    const came = await setBuyerPassword(await getSteppe(), text('word'), text('password'))
    if (came.ok) return goIn(came, came.back)
    const field = came.code === 'link-gone' ? '' : 'password'
    return { problem: { field, words: doorSentence(came, '') }, email: '', told: '' }
  },
)

async function goIn({ as, email }: BuyerIn, back: string): Promise<never> {
  // What a guest has put in is still theirs when they say who they are.
  await withRoom(() => enterShop(as, 'kept', email))
  redirect(insideShop(back))
}
