import 'server-only'

import { unitPriceOf } from '@/core/catalogue/content'
import { findMinorDigits } from '@/core/currency/iso-4217'
import { basedPrice } from '@/core/engine/price/add-extras'
import { findComparedPrice } from '@/core/engine/price/compared-price'
import { findPrice, ONE_PIECE } from '@/core/engine/price/find-price'
import { comparedWithPromoted } from '@/core/engine/promoted/promoted-answer'
import { promotedPrice } from '@/core/engine/promoted/promoted-price'
import { type Access, findRights } from '@/core/engine/rules/find-rights'
import { contentOf, displayOf, taxPrice } from '@/core/engine/rules/find-tax'
import type { BasedAmount } from '@/core/price/based-amount'
import type { ShopVisitor } from '@/server/session/shop-session'
import type { ShopPrice } from './shop-view'

export const NO_PRICE: ShopPrice = {
  own: null,
  was: null,
  withTax: null,
  perUnit: null,
  isPromoted: false,
  hidden: null,
}

/** A price as it shows to a visitor: with tax, without, or both, as their region and group say. */
export function shownPrice(
  { prepared, pricingContext }: ShopVisitor,
  number: number,
  amounts: {
    readonly own: BasedAmount | null
    readonly was: BasedAmount | null
    readonly isPromoted?: boolean
  },
): ShopPrice {
  const { own, was, isPromoted = false } = amounts
  if (own === null) return NO_PRICE
  const display = displayOf(prepared, pricingContext, 'shop')
  const shown = (price: BasedAmount) => {
    const { net, gross } = taxPrice(prepared, pricingContext, number, price)
    return { first: display === 'gross' ? gross : net, gross }
  }
  const mine = shown(own)
  return {
    own: mine.first,
    was: was === null ? null : shown(was).first,
    withTax: display === 'both' ? mine.gross : null,
    perUnit: unitPriceOf(
      mine.first,
      contentOf(prepared, number),
      findMinorDigits(pricingContext.currency) ?? pricingContext.digits,
    ),
    isPromoted,
    hidden: null,
  }
}

/** Why a visitor sees no price; `null` where they do. */
export function hiddenPrice(access: Access): ShopPrice['hidden'] {
  if (access.seePrice) return null
  if (access.quote) return 'quote'
  return access.because?.code === 'gate' ? 'sign-in' : 'not-shown'
}

/** The price of one piece, as a listing shows it. */
export function cardPrice(visitor: ShopVisitor, variant: string): ShopPrice {
  const { prepared, buyerContext, pricingContext, itemPromotions } = visitor
  const number = prepared.index.numberOf.get(variant) as number
  const hidden = hiddenPrice(findRights(prepared, pricingContext, number))
  if (hidden) return { ...NO_PRICE, hidden }
  const found = findPrice(prepared, pricingContext, number, ONE_PIECE)
  const promoted = promotedPrice(itemPromotions, number, found)
  if (promoted)
    return shownPrice(visitor, number, {
      own: basedPrice(promoted, pricingContext.digits),
      was: comparedWithPromoted(itemPromotions, buyerContext, number, ONE_PIECE, {
        units: found.units,
        basis: found.basis,
        after: promoted.units,
      }),
      isPromoted: true,
    })
  return shownPrice(visitor, number, {
    own: basedPrice(found, pricingContext.digits),
    was: findComparedPrice(prepared, pricingContext, buyerContext, number, ONE_PIECE),
  })
}
