import { compare, type Decimal } from '../decimal/decimal'
import { buyerContext } from '../engine/context/buyer-context'
import { shownInBasis, storeBasis } from '../engine/amounts/basis'
import { findComparedPrice } from '../engine/price/compared-price'
import { findPrice, ONE_PIECE } from '../engine/price/find-price'
import { openPricingContext } from '../engine/price/open-pricing-context'
import { openItemPromotions } from '../engine/promoted/item-promotions'
import { comparedWithPromoted } from '../engine/promoted/promoted-answer'
import { promotedPrice } from '../engine/promoted/promoted-price'
import { findRights } from '../engine/rules/find-rights'
import { NO_FACTS } from '../promotions/facts'
import { eachInSteps, type Steps } from '../steps/steps'
import { type Change, getSettings } from '../store/store'
import { type Finding, type FindingCase, type Looking, withCases } from './finding'
import type { PriceFindings } from './prices'

/** What has happened, as far as findings ask: it stands in no record. */
export interface PastFacts {
  /** Ids of variants that were sold of late; `null` where nothing was ever sold, so that this says nothing. */
  readonly sold: ReadonlySet<string> | null
  /** Of variants, by id, that the public pays less for now than before: the lowest price of the 30 days before. */
  readonly priorPrices: ReadonlyMap<string, Decimal>
}

/** Findings that hang on what has happened. */
export function* findInPast(
  looking: Looking,
  past: PastFacts,
  { classes }: PriceFindings,
): Steps<readonly Finding[]> {
  const guests = [...classes.values()].find(({ of }) => of.buyer.kind === 'guest')
  const below = guests?.cells.filter(({ fault }) => fault === 'below-cost').flatMap(({ numbers }) => numbers)
  return [...unsoldAtLoss(looking, past, below ?? []), ...(yield* struckUnlawfully(looking, past))]
}

/** What the public is offered below cost, and nobody buys even so: by product. */
function unsoldAtLoss(
  { prepared }: Looking,
  { sold }: PastFacts,
  below: readonly number[],
): readonly Finding[] {
  if (sold === null) return []
  const { store, index } = prepared
  const byProduct = new Map<string, FindingCase[]>()
  for (const number of below) {
    const id = index.items[number] as string
    const variant = store.variant.get(id)
    if (!variant || store.outOfStock.has(id) || sold.has(id)) continue
    const known = byProduct.get(variant.product) ?? []
    byProduct.set(variant.product, known)
    known.push({ variant: id, buyer: null, amounts: {}, currency: getSettings(store).currency, fix: [] })
  }
  return [...byProduct].map(([id, cases]) =>
    withCases(
      {
        code: 'unsold-at-loss',
        group: 'loses-money',
        key: `unsold-at-loss/product/${id}`,
        cause: { kind: 'product', id },
        facts: {},
      },
      cases,
    ),
  )
}

/**
 * Prices struck through for guests that are higher than the lowest of the 30 days before: what has not been reduced, or not from
 * there, may not be announced as reduced. A recommended price is no price that was ever asked.
 *
 * Source  Directive 98/6/EC, Article 6a(1).
 */
function* struckUnlawfully({ prepared, at }: Looking, { priorPrices }: PastFacts): Steps<readonly Finding[]> {
  const { store, index } = prepared
  const settings = getSettings(store)
  if (settings.comparedWith !== 'base' && settings.comparedWith !== 'public') return []
  const from = buyerContext({ kind: 'guest' }, at)
  const opened = openPricingContext(prepared, from)
  if (!opened.ok) return []
  const { value: context } = opened
  const promotions = openItemPromotions(prepared, context, at, NO_FACTS)
  // Guests are compared with themselves: they see something struck through only where a promotion holds.
  if (settings.comparedWith === 'public' && promotions.inOrder.length === 0) return []
  const basis = storeBasis(prepared)
  const shown = (number: number, price: { readonly units: number; readonly basis: typeof basis }) =>
    shownInBasis(prepared, context.currencyView, number, price, basis)
  const lawful: Change = {
    kind: 'settings',
    id: settings.id,
    before: settings,
    after: { ...settings, comparedWith: 'prior' },
  }
  const cases: FindingCase[] = []
  yield* eachInSteps(Array(index.variantCount).keys(), (number) => {
    const found = findPrice(prepared, context, number, ONE_PIECE)
    const promoted = promotedPrice(promotions, number, found)
    const was = promoted
      ? comparedWithPromoted(promotions, from, number, ONE_PIECE, { ...found, after: promoted.units })
      : findComparedPrice(prepared, context, from, number, ONE_PIECE)
    if (!was || !findRights(prepared, context, number).seePrice) return
    const price = shown(number, promoted ?? found)
    const struck = was.basis === basis ? was.amount : price
    const variant = index.items[number] as string
    const wanted = priorPrices.get(variant) ?? price
    if (price === null || struck === null || wanted === null || compare(struck, wanted) <= 0) return
    cases.push({
      variant,
      buyer: { kind: 'guest', id: '' },
      amounts: { price, usual: struck, wanted },
      currency: context.currency,
      fix: [lawful],
    })
  })
  if (cases.length === 0) return []
  const cause = { kind: 'settings', id: settings.id } as const
  return [
    withCases(
      {
        code: 'struck-unlawful',
        group: 'wrong-for-buyers',
        key: 'struck-unlawful/settings',
        cause,
        facts: {},
      },
      cases,
    ),
  ]
}
