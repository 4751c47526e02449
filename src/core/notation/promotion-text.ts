import { findBySku } from '../catalogue/find-by-code'
import type { What } from '../predicates/what'
import type { PromotionInput } from '../promotions/parse-promotion'
import type { PromotionValue } from '../promotions/promotion'
import type { Store } from '../store/store'
import { type OfferText, readOffer, writeOffer } from './offer-text'
import type { ReadRule } from './read-rule'
import { readWhat, writeWhat } from './what-text'

type ValueInput = PromotionInput['value']

/**
 * What a promotion does, as it is written.
 *
 * Holds   `readPromotionValue(writePromotionValue(value))` is `value`.
 */
export function writePromotionValue(store: Store, value: PromotionValue): string {
  return writeOffer(toOffer(store, value))
}

function toOffer(store: Store, value: PromotionValue): OfferText {
  if (value.kind === 'set')
    return {
      ...value,
      parts: value.parts.map(({ count, scope }) => ({ count, of: scope && writeWhat(store, scope) })),
    }
  if (value.kind !== 'free-goods') return value
  const { gift } = value
  return {
    ...value,
    gift: typeof gift === 'string' ? gift : { sku: store.variant.get(gift.variant)?.sku ?? gift.variant },
  }
}

/** Errors  names the part that means nothing, and how the same kind is written. */
export function readPromotionValue(store: Store, text: string): ReadRule<ValueInput> {
  const read = readOffer(text)
  return read.ok ? toValue(store, read.value) : read
}

function toValue(store: Store, offer: OfferText): ReadRule<ValueInput> {
  if (offer.kind === 'set') {
    const parts: { count: number; scope: What | null }[] = []
    for (const { count, of } of offer.parts) {
      const scope = of === null ? null : readWhat(store, of)
      if (scope && !scope.ok) return scope
      parts.push({ count, scope: scope ? scope.value : null })
    }
    return { ok: true, value: { ...offer, parts } }
  }
  if (offer.kind !== 'free-goods') return { ok: true, value: offer }
  const { gift } = offer
  if (typeof gift === 'string') return { ok: true, value: { ...offer, gift } }
  const variant = findBySku(store.variant, gift.sku)
  return variant
    ? { ok: true, value: { ...offer, gift: { variant: variant.id } } }
    : {
        ok: false,
        problem: `There is no SKU “${gift.sku}”. Write “buy 12: 1 free” for more of the same.`,
      }
}
