import type { BuyerReference } from '@/core/buyers/buyer'
import { amountAt, referenceAmounts } from '@/core/engine/amounts/amounts'
import { shownInBasis, storeBasis } from '@/core/engine/amounts/basis'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { PricingContext } from '@/core/engine/context/pricing-context'
import { findPrice } from '@/core/engine/price/find-price'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import { prepare, refresh } from '@/core/engine/prepare'
import { findLimits } from '@/core/engine/rules/find-limits'
import { findRights } from '@/core/engine/rules/find-rights'
import { leviesOf, taxClassOf } from '@/core/engine/rules/find-tax'
import { findImpact } from '@/core/impact/impact'
import { atOnce } from '@/core/steps/steps'
import { checkChanges } from '@/core/store/check-changes'
import { applyChanges, type Store } from '@/core/store/store'
import { EVERY_VARIANT, INSTANTS, randomStore } from '@tests/fixtures/random-store'
import { randomGuardedStore } from '@tests/fixtures/random-terms'
import { randomTaxedStore } from '@tests/fixtures/random-taxes'
import { someChanges } from '@tests/fixtures/some-changes'
import fc from 'fast-check'

/** Many thousands were looked at once by hand. */
const RUNS = Number(process.env['STEPPE_RUNS'] ?? 80)

/** One piece, and every quantity a break begins at in a list somebody's prices may come from. */
function quantities(...stands: readonly (readonly [Store, PricingContext])[]): readonly number[] {
  const found = new Set([1000])
  for (const [store, context] of stands) {
    const lists = new Set<string>()
    const add = (id: string): void => {
      if (lists.has(id)) return
      lists.add(id)
      const list = store['price-list'].get(id)
      const lines = [...store['price-line'].values()].filter((line) => line.list === id)
      for (const { breaks } of [...lines, ...(list?.defaultLine ? [list.defaultLine] : [])])
        for (const { from, method } of breaks) {
          found.add(Math.max(1000, Number(from) * 1000))
          if ('reference' in method && method.reference.kind === 'list') add(method.reference.list)
        }
    }
    for (const each of [context, ...(context.publicPricingContext ? [context.publicPricingContext] : [])])
      for (const { compiled } of each.ladder.flat()) add(compiled.list.id)
  }
  return [...found].sort((left, right) => left - right)
}

type Told = Record<string, string>

function costOf(prepared: PreparedStore, context: PricingContext, number: number): number {
  return amountAt(referenceAmounts(prepared, 'cost', context.currencyView), number)
}

/** Everything that is another thing for one buyer, found by asking for everything in stores that were prepared anew. */
function everything(
  before: PreparedStore,
  after: PreparedStore,
  buyer: BuyerReference,
  currency: string | null,
  at: number,
): Told | null {
  const [then, now] = [before, after].map((prepared) => {
    const opened = openPricingContext(prepared, {
      buyer,
      channel: null,
      deliverTo: null,
      currency,
      passcode: null,
      at,
    })
    return opened.ok ? opened.value : null
  })
  if (!then || !now) return null
  const told: Told = {}
  for (const variant of EVERY_VARIANT) {
    const [a, b] = [before.index.numberOf.get(variant), after.index.numberOf.get(variant)]
    if (a === undefined || b === undefined) continue
    const [r, s] = [findRights(before, then, a), findRights(after, now, b)]
    const word = ({ see, seePrice, buy, quote }: typeof r) => [see, seePrice, buy, quote].join()
    if (word(r) !== word(s)) told[`rights ${variant}`] = `${word(r)} → ${word(s)}`
    if (!r.see || !s.see) continue
    const limits = (prepared: PreparedStore, context: typeof then, number: number) => {
      const { limits, together } = findLimits(prepared, context, number)
      return JSON.stringify([limits, together])
    }
    if (limits(before, then, a) !== limits(after, now, b)) told[`limits ${variant}`] = 'others'
    const taxes = (prepared: PreparedStore, context: typeof then, number: number) =>
      context.terms.untaxed ??
      leviesOf(prepared, context, taxClassOf(prepared, number))
        .levies.map(({ tax, percent }) => `${tax.id}=${percent}`)
        .join()
    if (taxes(before, then, a) !== taxes(after, now, b)) told[`taxes ${variant}`] = 'others'
    let last = ''
    for (const own of quantities([before.store, then], [after.store, now])) {
      const found = [
        [before, then, a],
        [after, now, b],
      ].map(([prepared, context, number]) => {
        const price = findPrice(prepared as PreparedStore, context as typeof then, number as number, {
          own,
          counted: null,
        })
        const basis = storeBasis(prepared as PreparedStore)
        const { currencyView, currency } = context as typeof then
        return {
          raw: `${price.units}`,
          // What nobody changed is the same price, whatever of it is tax by now.
          entered: `${currency} ${price.units} ${price.basis}`,
          home: `${currency} ${shownInBasis(prepared as PreparedStore, currencyView, number as number, price, basis) ?? 'none'}`,
        }
      })
      const step = found.map(({ raw }) => raw).join()
      const [costThen, costNow] = [costOf(before, then, a), costOf(after, now, b)]
      const isMoved = found[0]?.entered !== found[1]?.entered && found[0]?.home !== found[1]?.home
      if (step !== last && isMoved) told[`price ${variant} ${own}`] = `${found[0]?.home} → ${found[1]?.home}`
      else if (step !== last && !Object.is(costThen, costNow) && found[1]?.raw !== 'NaN')
        told[`cost ${variant} ${own}`] = 'other'
      last = step
    }
  }
  return told
}

function told(
  impact: ReturnType<typeof findImpact> extends Generator<void, infer All>
    ? All extends readonly (infer One)[]
      ? One
      : never
    : never,
): Told {
  const found: Told = {}
  const word = ({ see, seePrice, buy, quote }: (typeof impact)['rights'][number]['before']) =>
    [see, seePrice, buy, quote].join()
  for (const { variant, before, after } of impact.rights)
    found[`rights ${variant}`] = `${word(before)} → ${word(after)}`
  for (const variant of impact.limits) found[`limits ${variant}`] = 'others'
  for (const variant of impact.taxes) found[`taxes ${variant}`] = 'others'
  for (const { variant, quantity } of impact.costs) found[`cost ${variant} ${quantity}`] = 'other'
  for (const { variant, quantity } of impact.prices) found[`price ${variant} ${quantity}`] = ''
  return found
}

const without = (all: Told): Told =>
  Object.fromEntries(Object.entries(all).map(([key, value]) => [key, key.startsWith('price') ? '' : value]))

test.each([
  ['prices', randomStore, RUNS],
  ['rights and limits', randomGuardedStore, RUNS],
  ['taxes', randomTaxedStore, RUNS],
] as const)('impact on %s is what comparing everything for everybody finds', (_, stores, runs) => {
  let classes = 0
  let narrow = 0
  fc.assert(
    fc.property(
      stores,
      stores,
      fc.array(fc.nat(60), { maxLength: 4 }),
      fc.constantFrom(...INSTANTS),
      fc.boolean(),
      (from, to, picked, at, isAll) => {
        const changes = someChanges(from, to, (place) => isAll || picked.includes(place))
        const next = applyChanges(from, changes)
        fc.pre(checkChanges(next, changes).length === 0)
        const before = prepare(from)
        const after = refresh(before, next, changes)
        const [plainBefore, plainAfter] = [prepare(from), prepare(next)]
        if (changes.length <= 4) narrow += 1
        for (const impact of atOnce(findImpact({ before, after, at, channel: null }, changes))) {
          classes += 1
          const { buyer, currency, accounts } = impact.of
          const members: readonly BuyerReference[] = [
            buyer,
            ...accounts.map((account) => ({ kind: 'account', account }) as const),
          ]
          for (const member of members) {
            const judged = everything(plainBefore, plainAfter, member, currency, at)
            if (judged) expect(told(impact)).toEqual(without(judged))
          }
        }
      },
    ),
    { numRuns: runs, endOnFailure: true },
  )
  expect(classes).toBeGreaterThan(runs * 3)
  expect(narrow).toBeGreaterThan(10)
})
