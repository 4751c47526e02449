'use server'

import { FORM, TEXT } from '@/server/session/argument-shapes'
import { shopAction } from '@/server/session/permit'
import { promotionWithCode } from '@/core/promotions/promotion'
import { circumstancesAt, matchRule } from '@/core/rules/match-rule'
import { currentInstant } from '@/server/clock'
import { isSameWord } from '@/server/doors/same-word'
import { getSteppe } from '@/server/engine/steppe'
import { tryWord } from '@/server/shop/word-tries'
import { cartOfVisitor, type ShopVisitor } from '@/server/session/shop-session'
import { readCartFacts, writeCartFacts } from '@/server/shop/cart-store'
import { redirect } from 'next/navigation'
import { enterShopPage } from '../entrance/enter'
import { withRoom } from '../frame/with-room'

const LONGEST_CODE = 60
const MOST_CODES = 10
/** So many wrong codes may be typed within the time; it is not told which of them were ever right. */
const MOST_WRONG = 10
const WRONG_FORGOTTEN_AFTER = 3_600_000

/** Takes a code; wrong, expired and other people's codes are answered alike, and limited in tries. */
export const enterCode = shopAction([FORM], async (form: FormData): Promise<never> => {
  const visitor = await enterShopPage()
  const steppe = await getSteppe()
  const typed = String(form.get('code') ?? '')
    .trim()
    .slice(0, LONGEST_CODE)
  const id = await withRoom(cartOfVisitor)
  const facts = await readCartFacts(steppe, id)
  const now = currentInstant()
  const isRecent =
    facts.wrongSince !== null && now.getTime() - facts.wrongSince.getTime() < WRONG_FORGOTTEN_AFTER
  const wrong = isRecent ? facts.wrongCodes : 0
  if (wrong >= MOST_WRONG) redirect('/shop/cart?code=waits')
  const tried = await withRoom(() => tryWord(steppe, 'promotion', () => holds(visitor, typed)))
  if (!tried) redirect('/shop/cart?code=waits')
  if (!tried.found) {
    const since = isRecent ? facts.wrongSince : now
    await withRoom(() => writeCartFacts(steppe, id, { wrongCodes: wrong + 1, wrongSince: since }))
    redirect('/shop/cart?code=wrong')
  }
  const codes = [...facts.codes.filter((code) => code.toLowerCase() !== typed.toLowerCase()), typed]
  await withRoom(() => writeCartFacts(steppe, id, { codes: codes.slice(-MOST_CODES) }))
  redirect('/shop/cart')
})

/** Whether a code is one that holds for this visitor here and now. */
function holds({ prepared, pricingContext, buyerContext }: ShopVisitor, typed: string): boolean {
  const promotion = promotionWithCode(prepared.store.promotion.values(), typed, isSameWord)
  const compiled = prepared.terms.promotions.find(({ rule }) => rule.id === promotion?.id)
  return (
    compiled !== undefined &&
    matchRule(compiled.rule, compiled.schedule, circumstancesAt({ ...pricingContext, at: buyerContext.at }))
      .holds
  )
}

/** Forgets a code. */
export const removeCode = shopAction([FORM], async (form: FormData): Promise<never> => {
  await enterShopPage()
  const steppe = await getSteppe()
  const id = await withRoom(cartOfVisitor)
  const gone = String(form.get('code') ?? '')
  const { codes } = await readCartFacts(steppe, id)
  await withRoom(() => writeCartFacts(steppe, id, { codes: codes.filter((code) => code !== gone) }))
  redirect('/shop/cart')
})

/** Takes an offer, or leaves it; the choice is kept with the cart. */
export const chooseOffer = shopAction([FORM], async (form: FormData): Promise<never> => {
  const { prepared } = await enterShopPage()
  const steppe = await getSteppe()
  const id = await withRoom(cartOfVisitor)
  const code = String(form.get('offer') ?? '')
  const promotion = [...prepared.store.promotion.values()].find((each) => each.code === code)
  if (promotion) {
    const { choices } = await readCartFacts(steppe, id)
    const choice = form.get('choice') === 'taken' ? 'taken' : 'left'
    await withRoom(() => writeCartFacts(steppe, id, { choices: { ...choices, [promotion.id]: choice } }))
  }
  redirect('/shop/cart')
})

/** Remembers how the buyer will pay, so that what depends on it is shown before anything is ordered. */
export const choosePayment = shopAction([TEXT], async (payment: string): Promise<void> => {
  await enterShopPage()
  if (payment !== 'card' && payment !== 'terms') return
  const steppe = await getSteppe()
  const id = await withRoom(cartOfVisitor)
  await withRoom(() => writeCartFacts(steppe, id, { payment }))
})
