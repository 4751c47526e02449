'use server'

import { FORM } from '@/server/session/argument-shapes'
import { merchantAction, shopAction } from '@/server/session/permit'
import { isBuyerCode } from '@/core/buyers/buyer-code'
import { chooseInShop, enterShop, forgetPasscode, lookThrough } from '@/server/session/shop-session'
import { parseVantage } from '@/ui/frame/vantage-url'
import { findBuyer } from '@/core/buyers/buyer-code'
import { findDoer, isDoorOpen } from '@/server/session/doer'
import { currentView } from '@/server/views/current-view'
import { headers } from 'next/headers'
import { notFound, redirect } from 'next/navigation'
import { insideShop } from './inside-shop'
import { withRoom } from '../frame/with-room'

/** Signs in as the account a form names, and as the person of it. */
export const signIn = shopAction([FORM], async (form: FormData): Promise<never> => {
  // Whoever is asked who they are does not just say so.
  if (!isDoorOpen((await headers()).get('host'))) notFound()
  const as = String(form.get('as') ?? '')
  // What a guest has put in is still theirs when they say who they are.
  const person = String(form.get('person') ?? '')
  await withRoom(() => enterShop(isBuyerCode(as) ? as : 'guest', 'kept', person === '' ? null : person))
  redirect(insideShop(String(form.get('back') ?? '')))
})

/** Takes over where to deliver and what to pay in. */
export const choosePlace = shopAction([FORM], async (form: FormData): Promise<never> => {
  const text = (name: string) => String(form.get(name) ?? '')
  const back = text('back')
  await withRoom(() => chooseInShop({ deliverTo: text('country'), currency: text('currency') }))
  redirect(insideShop(back))
})

/** From the merchant's frame into the shop, with the eyes looked through, from the same place and in the same currency. */
export const openShopWindow = merchantAction('shop:look', [FORM], async (form: FormData): Promise<never> => {
  const text = (name: string) => String(form.get(name) ?? '')
  const { as, deliverTo, currency, draft } = parseVantage(new URLSearchParams(text('vantage')))
  const doer = await findDoer()
  // Who sees some buyers only looks through the eyes of those.
  const { store } = (await currentView()).prepared
  const isSeen = as === 'guest' || findBuyer(store.group, store.account, as) !== null
  await withRoom(() => enterShop(isSeen ? as : 'guest', 'left', null, doer?.id ?? null))
  await withRoom(() => chooseInShop({ deliverTo: deliverTo ?? '', currency: currency ?? '' }))
  await withRoom(() => lookThrough(draft))
  redirect(insideShop(text('page')))
})

/** Goes on without the passcode that was given. */
export const leavePasscode = shopAction([FORM], async (): Promise<never> => {
  await withRoom(forgetPasscode)
  redirect('/shop')
})

export const leaveShop = shopAction([FORM], async (): Promise<never> => {
  await withRoom(() => enterShop('guest'))
  redirect('/shop')
})
