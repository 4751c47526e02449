import { isSold } from '../catalogue/is-sold'
import { type BuyerReference, findBuyerFacts } from '../buyers/buyer'
import { compare, type Decimal, HUNDRED, isPositive, multiply, subtract, sum, ZERO } from '../decimal/decimal'
import { amountAt, shownAmounts } from '../engine/amounts/amounts'
import { shownInBasis, storeBasis } from '../engine/amounts/basis'
import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import { keptScopeMatcher } from '../engine/items/scope-matcher'
import { toUnits } from '../engine/lists/operation'
import { fromUnits, toPrice } from '../engine/lists/price-step'
import { findPrice } from '../engine/price/find-price'
import { openPricingContext } from '../engine/price/open-pricing-context'
import { openItemPromotions } from '../engine/promoted/item-promotions'
import { promotedPrice } from '../engine/promoted/promoted-price'
import { findLimits } from '../engine/rules/find-limits'
import { findRights } from '../engine/rules/find-rights'
import { leviesOf, taxClassOf } from '../engine/rules/find-tax'
import { compileSchedule, matchWhen } from '../predicates/when'
import { matchWhere } from '../predicates/where'
import { matchWho } from '../predicates/who'
import { marginPercent } from '../price/margin'
import { NO_FACTS } from '../promotions/facts'
import type { Proof } from '../proofs/proof'
import type { Steps } from '../steps/steps'
import { getSettings } from '../store/store'
import { wholePercent } from '../tax/split-tax'

/** Where a proof does not hold: for whom, of what, and what was found instead. */
interface BrokenCase {
  readonly buyer: BuyerReference
  /** Id; `null` where it is about all items together. */
  readonly variant: string | null
  readonly found: Found
}

/** What stands where the proof wants something else; `null` for nothing at all. */
export type Found =
  | { readonly kind: 'money'; readonly amount: Decimal | null; readonly currency: string }
  | { readonly kind: 'percent'; readonly percent: Decimal | null }
  | { readonly kind: 'quantity'; readonly quantity: Decimal | null }
  | { readonly kind: 'right'; readonly has: boolean }

export interface Verdict {
  readonly proof: Proof
  /**
   * `idle` is not asked now: it is switched off, or its time is not now. `empty` is about nobody or nothing that is there
   * any more, so that it proves nothing.
   */
  readonly state: 'holds' | 'broken' | 'idle' | 'empty'
  readonly checked: number
  readonly held: number
  /** The first ones. */
  readonly broken: readonly BrokenCase[]
  /** What was found, where it is the same everywhere: of a proof about one price, that price. */
  readonly found: Found | null
}

const MOST_TOLD = 50

/**
 * Whether a proof holds at an instant (epoch milliseconds), for every buyer and every item it is about.
 *
 * Holds  buyers with equal rights are asked once.
 */
export function* prove(prepared: PreparedStore, proof: Proof, at: number): Steps<Verdict> {
  const schedule = compileSchedule(proof.schedule, getSettings(prepared.store).timeZone)
  const verdict = (state: Verdict['state'], rest: Partial<Verdict> = {}): Verdict => ({
    proof,
    state,
    checked: 0,
    held: 0,
    broken: [],
    found: null,
    ...rest,
  })
  if (proof.state === 'off' || proof.status === 'archived' || !matchWhen(schedule, at).matches)
    return verdict('idle')
  const standings = standingsOf(prepared, proof, at)
  const items = itemsOf(prepared, proof)
  const broken: BrokenCase[] = []
  let [checked, held] = [0, 0]
  let found: Found | null = null
  for (const { buyer, pricingContext } of standings) {
    const judge = judgeOf(prepared, pricingContext, proof)
    const cases = judge.each
      ? items.map((number) => [number, judge.each?.(number)] as const)
      : [[null, judge.all?.(items)] as const]
    for (const [at_, result] of cases) {
      if (checked % 256 === 0) yield
      if (!result) continue
      checked += 1
      found = result.found
      if (result.holds) held += 1
      else if (broken.length < MOST_TOLD)
        broken.push({
          buyer,
          variant: at_ === null ? null : (prepared.index.items[at_] as string),
          found: result.found,
        })
    }
  }
  const told = { checked, held, broken, found: checked === 1 ? found : null }
  if (checked === 0) return verdict('empty', told)
  return verdict(held === checked ? 'holds' : 'broken', told)
}

interface Standing {
  readonly buyer: BuyerReference
  readonly pricingContext: PricingContext
}

/** Everybody a proof is about, where it is about them; of buyers with equal rights one. */
function standingsOf(prepared: PreparedStore, proof: Proof, at: number): readonly Standing[] {
  const { store } = prepared
  const known = new Map<string, Standing>()
  const everybody: readonly BuyerReference[] = [
    { kind: 'guest' },
    ...[...store.group.values()]
      .filter(({ status }) => status === 'active')
      .map(({ id }) => ({ kind: 'group', group: id }) as const),
    ...[...store.account.values()]
      .filter(({ status }) => status === 'active')
      .map(({ id }) => ({ kind: 'account', account: id }) as const),
  ]
  for (const buyer of everybody) {
    const facts = findBuyerFacts(store.group, store.account, buyer)
    if (!facts || !matchWho(proof.audience, facts).matches) continue
    for (const { channel, deliverTo } of placesOf(prepared, proof)) {
      const opened = openPricingContext(prepared, {
        buyer,
        channel,
        deliverTo,
        currency: isInMoney(proof) ? (proof.currency ?? getSettings(store).currency) : null,
        passcode: null,
        at,
      })
      if (!opened.ok || !matchWhere(proof.place, opened.value.place).matches) continue
      const key = rightsKey(opened.value)
      if (!known.has(key)) known.set(key, { buyer, pricingContext: opened.value })
    }
  }
  return [...known.values()]
}

function rightsKey({ key, currency, terms, buyer }: PricingContext): string {
  return [
    key,
    currency,
    String(buyer.signedIn),
    terms.rules.map(({ rule, who }) => `${rule.id}:${who}`).join(),
    terms.limits.map(({ rule, who }) => `${rule.id}:${who}`).join(),
    terms.contractAssortments.map(({ contract }) => contract).join(),
    terms.channel?.id ?? '',
    terms.untaxed ?? JSON.stringify(terms.taxPlace),
  ].join('\n')
}

/** Where to stand: in each channel and region a proof names, else where buyers stand by themselves. */
function placesOf({ store }: PreparedStore, { place }: Proof) {
  const channels = place.include.flatMap((term) => {
    if (term.kind === 'channel') return [term.channel]
    if (term.kind !== 'channel-group') return []
    return [...store.channel.values()].filter(({ groups }) => groups.includes(term.group)).map(({ id }) => id)
  })
  const regions = place.include.flatMap((term) => {
    const country = term.kind === 'region' ? store.region.get(term.region)?.countries[0] : undefined
    if (country === undefined) return []
    const [land = '', state = ''] = country.split('-')
    return [{ country: land, state, postcode: '', city: '' }]
  })
  return (channels.length > 0 ? channels : [null]).flatMap((channel) =>
    (regions.length > 0 ? regions : [null]).map((deliverTo) => ({ channel, deliverTo })),
  )
}

function itemsOf(prepared: PreparedStore, { scope }: Proof): readonly number[] {
  const { store, index } = prepared
  const isIn = keptScopeMatcher(prepared, scope)
  const numbers: number[] = []
  for (let number = 0; number < index.variantCount; number += 1) {
    if (isSold(store, index.items[number] as string) && isIn(number)) numbers.push(number)
  }
  return numbers
}

function isInMoney({ claim }: Proof): boolean {
  return claim.startsWith('price-') ? claim !== 'price-never-seen' : claim === 'promoted-at-most'
}

interface Result {
  readonly holds: boolean
  readonly found: Found
}

/** Judges each item, or all together; `null` for an item there is nothing to say of. */
interface Judge {
  readonly each?: (number: number) => Result | null
  readonly all?: (numbers: readonly number[]) => Result | null
}

function judgeOf(prepared: PreparedStore, pricingContext: PricingContext, proof: Proof): Judge {
  const { currency, digits, currencyView } = pricingContext
  const { claim } = proof
  const value = proof.value as Decimal
  const home = storeBasis(prepared)
  const own = toUnits(proof.quantity, 3)
  const found = (number: number) => findPrice(prepared, pricingContext, number, { own, counted: null })
  const price = (number: number) => shownInBasis(prepared, currencyView, number, found(number), home)
  const amount = (field: 'cost' | 'basePrice', number: number) =>
    toPrice(amountAt(shownAmounts(prepared, field, currencyView), number), digits)
  const money = (paid: Decimal | null, holds: (paid: Decimal) => boolean): Result => ({
    holds: paid !== null && holds(paid),
    found: { kind: 'money', amount: paid, currency },
  })
  /** Whether the part is at least so many percent of the whole: asked exactly, told with one digit. */
  const share = (part: Decimal, whole: Decimal): Result => ({
    holds: isPositive(whole) && compare(multiply(part, HUNDRED), multiply(value, whole)) >= 0,
    found: { kind: 'percent', percent: marginPercent(whole, subtract(whole, part)) },
  })
  const right = (has: boolean, wanted: boolean): Result => ({
    holds: has === wanted,
    found: { kind: 'right', has },
  })
  const rights = (number: number) => findRights(prepared, pricingContext, number)
  const limit = (field: 'minimum' | 'maximum' | 'multiple') => (number: number) => {
    const quantity = findLimits(prepared, pricingContext, number).limits[field]
    return {
      holds: quantity !== null && compare(quantity, value) === 0,
      found: { kind: 'quantity', quantity },
    } as const
  }
  switch (claim) {
    case 'price-is':
      return { each: (number) => money(price(number), (paid) => compare(paid, value) === 0) }
    case 'price-at-most':
      return { each: (number) => money(price(number), (paid) => compare(paid, value) <= 0) }
    case 'price-at-least':
      return { each: (number) => money(price(number), (paid) => compare(paid, value) >= 0) }
    case 'promoted-at-most': {
      const promotions = openItemPromotions(prepared, pricingContext, pricingContext.at, NO_FACTS)
      return {
        each: (number) => {
          const plain = found(number)
          const promoted = promotedPrice(promotions, number, plain)
          const paid = promoted ? fromUnits(promoted.units, digits) : price(number)
          return money(paid, (each) => compare(each, value) <= 0)
        },
      }
    }
    case 'off-base-at-least':
      return {
        each: (number) => {
          const [paid, base] = [price(number), amount('basePrice', number)]
          if (base === null) return null
          return paid === null ? share(ZERO, base) : share(subtract(base, paid), base)
        },
      }
    case 'margin-at-least':
      return {
        each: (number) => {
          const [paid, cost] = [price(number), amount('cost', number)]
          return paid === null || cost === null ? null : share(subtract(paid, cost), paid)
        },
      }
    case 'average-margin-at-least':
      return {
        all: (numbers) => {
          const pairs = numbers.flatMap((number) => {
            const [paid, cost] = [price(number), amount('cost', number)]
            return paid === null || cost === null ? [] : [{ paid, cost }]
          })
          if (pairs.length === 0) return null
          const whole = sum(pairs.map(({ paid }) => paid))
          return share(subtract(whole, sum(pairs.map(({ cost }) => cost))), whole)
        },
      }
    case 'not-above-public': {
      const guests = openPricingContext(prepared, {
        buyer: { kind: 'guest' },
        channel: pricingContext.terms.channel?.id ?? null,
        deliverTo: pricingContext.deliverTo,
        currency,
        passcode: null,
        at: pricingContext.at,
      })
      return {
        each: (number) => {
          const paid = price(number)
          if (paid === null || !guests.ok) return null
          const guest = findPrice(prepared, guests.value, number, { own, counted: null })
          const usual = shownInBasis(prepared, guests.value.currencyView, number, guest, home)
          return usual === null ? null : money(paid, (each) => compare(each, usual) <= 0)
        },
      }
    }
    case 'never-seen':
      return { each: (number) => right(rights(number).see, false) }
    case 'price-never-seen':
      return { each: (number) => right(rights(number).seePrice, false) }
    case 'never-bought':
      return { each: (number) => right(rights(number).buy, false) }
    case 'always-seen':
      return { each: (number) => right(rights(number).see, true) }
    case 'always-bought':
      return { each: (number) => right(rights(number).buy && price(number) !== null, true) }
    case 'least-is':
      return { each: limit('minimum') }
    case 'most-is':
      return { each: limit('maximum') }
    case 'multiple-is':
      return { each: limit('multiple') }
    case 'tax-is':
      return {
        each: (number) => {
          const { levies } = leviesOf(prepared, pricingContext, taxClassOf(prepared, number))
          const charged = pricingContext.terms.untaxed ? [] : levies
          const whole = wholePercent(charged)
          return { holds: compare(whole, value) === 0, found: { kind: 'percent', percent: whole } }
        },
      }
  }
}

/** All proofs of a store, in the order of their names. */
export function* proveAll(prepared: PreparedStore, at: number): Steps<readonly Verdict[]> {
  const verdicts: Verdict[] = []
  for (const proof of [...prepared.store.proof.values()].sort((left, right) =>
    left.name < right.name ? -1 : 1,
  ))
    verdicts.push(yield* prove(prepared, proof, at))
  return verdicts
}

/** Whether a verdict keeps something from being published. */
export function isInTheWay({ state, proof }: Verdict): boolean {
  return proof.isBlocking && (state === 'broken' || state === 'empty')
}
