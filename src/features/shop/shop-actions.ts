'use server'

import { isBuyerCode } from '@/core/buyers/buyer-code'
import { chooseInShop, enterShop } from '@/server/session/shop-session'
import { redirect } from 'next/navigation'

/** Signs in as the account a form names. */
export async function signIn(form: FormData): Promise<never> {
  const as = String(form.get('as') ?? '')
  // What a guest has put in is still theirs when they say who they are.
  await enterShop(isBuyerCode(as) ? as : 'guest', 'kept')
  redirect('/shop')
}

/** Takes over where to deliver and what to pay in. */
export async function choosePlace(form: FormData): Promise<never> {
  const text = (name: string) => String(form.get(name) ?? '')
  const back = text('back')
  await chooseInShop({ deliverTo: text('country'), currency: text('currency') })
  redirect(back.startsWith('/shop') ? back : '/shop')
}

export async function leaveShop(): Promise<never> {
  await enterShop('guest')
  redirect('/shop')
}
