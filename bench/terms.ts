import type { CartQuestion } from '@/core/cart/cart'
import { priceCart } from '@/core/cart/price-cart'
import { decimal } from '@/core/decimal/decimal'
import { findLimits } from '@/core/engine/rules/find-limits'
import { findPrice } from '@/core/engine/price/find-price'
import { findRights } from '@/core/engine/rules/find-rights'
import { taxPrice } from '@/core/engine/rules/find-tax'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import { refresh } from '@/core/engine/prepare'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { columnMemory } from '@/core/engine/column/column-memory'
import { computeColumn } from '@/core/engine/column/price-column'
import { toPrice } from '@/core/engine/lists/price-step'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { scopeMatcher } from '@/core/engine/items/scope-matcher'
import { openItemPromotions } from '@/core/engine/promoted/item-promotions'
import { promotedColumn } from '@/core/engine/promoted/promoted-column'
import { promotedPrice } from '@/core/engine/promoted/promoted-price'
import { NO_FACTS } from '@/core/promotions/facts'
import type { PromotionValue } from '@/core/promotions/promotion'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import { applyChanges, type Change } from '@/core/store/store'
import { referencePrice } from '@tests/reference/reference-price'
import { type PlainPromotion, referencePromotions } from '@tests/reference/reference-promotions'
import type { IndexedDecimal } from './indexed-decimal'
import { numbers } from './large-store'
import { type Contender, measure, type Samples } from './measure'

const LINES = 200
const LISTED = 48
const RULES = 20
const PROMOTIONS = 100
/** The plain one takes seconds. */
const REFERENCE_REPETITIONS = 3
/** Of a whole cart they would take minutes. */
const LINES_PRICED_PLAINLY = 2
export const PRICED_PLAINLY = `${LINES_PRICED_PLAINLY} of its ${LINES} lines by looking at every line of every list`
export const PLAIN_SHARE = LINES / LINES_PRICED_PLAINLY

/** The large store with taxes, limits, access rules, and a contract that covers some branches, for one buyer. */
function withTerms(prepared: PreparedStore, account: string): PreparedStore {
  const { store } = prepared
  const branches = [...store.category.keys()]
  const scope = (at: number) => ({
    include: [
      { kind: 'category' as const, category: branches[at % branches.length] as string, descendants: true },
    ],
    exclude: [],
  })
  const changes: Change[] = [
    ...['standard', 'reduced'].map((code, position): Change => ({
      kind: 'tax-class',
      id: code,
      before: null,
      after: { ...RECORD_DEFAULTS['tax-class'], id: code, code, name: code, position },
    })),
    ...['vat', 'city'].map((code, position): Change => ({
      kind: 'tax',
      id: code,
      before: null,
      after: { ...RECORD_DEFAULTS.tax, id: code, code, name: code, position },
    })),
    ...['IE', 'FR', 'DE', 'AT', 'IT', 'NL'].flatMap((country) =>
      ['vat', 'city'].map((tax): Change => {
        const id = `${tax}-${country}`
        const percent = decimal(tax === 'vat' ? '21' : '1.5')
        return {
          kind: 'tax-rate',
          id,
          before: null,
          after: { ...RECORD_DEFAULTS['tax-rate'], id, tax, country, percent },
        }
      }),
    ),
    ...Array.from({ length: RULES }, (_, at): Change => {
      const id = `limit${at}`
      const counting = at % 4 === 0 ? 'together' : 'each'
      return {
        kind: 'limit',
        id,
        before: null,
        after: {
          ...RECORD_DEFAULTS.limit,
          ...{ id, code: id, name: id, counting, minimum: decimal(1), scope: scope(at) },
        },
      }
    }),
    ...Array.from({ length: RULES }, (_, at): Change => {
      const id = `access${at}`
      const effect = at % 3 === 0 ? 'no-buying' : 'show'
      return {
        kind: 'access-rule',
        id,
        before: null,
        after: { ...RECORD_DEFAULTS['access-rule'], id, code: id, name: id, effect, scope: scope(at * 3) },
      }
    }),
    {
      kind: 'contract',
      id: 'terms',
      before: null,
      after: {
        ...RECORD_DEFAULTS.contract,
        ...{ id: 'terms', code: 'terms', name: 'Terms', accounts: [account] },
        assortment: {
          start: 'nothing',
          include: branches.slice(0, 40).map((category) => ({ kind: 'category', category })),
          exclude: [],
        },
      },
    },
  ]
  return refresh(prepared, applyChanges(store, changes), changes)
}

/** A hundred promotions on branches, a fifth of them sets. */
function withPromotions(prepared: PreparedStore): PreparedStore {
  const { store } = prepared
  const branches = [...store.category.keys()]
  const percent = (value: string) => ({ kind: 'percent', percent: decimal(value) }) as const
  const valueOf = (at: number): PromotionValue => {
    const parts = [{ count: 3, scope: null }]
    if (at < 20)
      return { kind: 'set', parts, saving: at % 2 ? { kind: 'cheapest-free', count: 1 } : percent('10') }
    if (at < 50) return { kind: 'item-price', saving: percent('5'), closes: at % 2 === 0 }
    if (at < 80) return { kind: 'by-quantity', from: decimal(5), applies: 'all', saving: percent('5') }
    if (at < 90)
      return { kind: 'free-goods', brackets: [{ from: 12, free: 1 }], gift: 'bought', repeats: true }
    return { kind: 'order', brackets: [{ from: null, saving: percent('2') }] }
  }
  const changes = Array.from({ length: PROMOTIONS }, (_, at): Change => {
    const id = `promotion${at}`
    const category = branches[(at * 7) % branches.length] as string
    const scope = { include: [{ kind: 'category' as const, category, descendants: true }], exclude: [] }
    const head = { id, code: id, name: id, state: 'on' as const, rank: 1 + (at % 7), scope }
    return {
      kind: 'promotion',
      id,
      before: null,
      after: { ...RECORD_DEFAULTS.promotion, ...head, value: valueOf(at) },
    }
  })
  return refresh(prepared, applyChanges(store, changes), changes)
}

/** The same promotions as the plain reference takes them. */
function plainPromotions(prepared: PreparedStore, items: readonly string[]): readonly PlainPromotion[] {
  const numberOf = (variant: string) => prepared.index.numberOf.get(variant) as number
  const percentOf = (saving: { readonly kind: string; readonly percent?: string }) => saving.percent ?? '0'
  return [...prepared.store.promotion.values()].map(({ code, rank, scope, value }): PlainPromotion => {
    const holds = scopeMatcher(prepared, scope)
    const held = items.map((variant) => holds(numberOf(variant)))
    const head = { code, rank, holds: (line: number) => held[line] === true }
    switch (value.kind) {
      case 'item-price':
        return {
          ...head,
          value: { kind: 'item-price', percent: percentOf(value.saving), closes: value.closes },
        }
      case 'by-quantity':
        return {
          ...head,
          value: { kind: 'by-quantity', percent: percentOf(value.saving), from: Number(value.from) },
        }
      case 'set':
        return value.saving.kind === 'cheapest-free'
          ? { ...head, value: { kind: 'cheapest-free', count: 3, free: value.saving.count } }
          : { ...head, value: { kind: 'set', count: 3, percent: percentOf(value.saving) } }
      case 'free-goods':
        return { ...head, value: { kind: 'cheapest-free', count: 12, free: 1 } }
      default:
        return { ...head, value: { kind: 'order', percent: '2' } }
    }
  })
}

/** A cart and a listing page of a contract buyer beside a whole column of plain prices. */
export async function measureTerms(
  prepared: PreparedStore,
  at: number,
  repetitions: number,
  indexed: IndexedDecimal,
): Promise<Samples> {
  const guarded = withTerms(prepared, 'a7')
  const promoted = withPromotions(guarded)
  const from = buyerContext({ kind: 'account', account: 'a7' }, at)
  const opened = openPricingContext(guarded, from)
  if (!opened.ok) throw new Error(opened.error.code)
  const pricingContext = opened.value
  const pick = numbers(11)
  const { variantCount, items } = guarded.index
  const lines = Array.from({ length: LINES }, () => ({
    variant: items[pick(variantCount)] as string,
    quantity: decimal(1 + pick(20)),
    extras: [],
  }))
  const bought = lines.map(({ variant }) => variant)
  const plain = plainPromotions(promoted, bought)
  const cartByReference = () => {
    const priced = lines.map(({ variant, quantity }) => ({
      sku: promoted.store.variant.get(variant)?.sku ?? variant,
      units: Number(quantity),
      price: ((indexed.price('a7', variant, Number(quantity)) ?? 0) / 100).toFixed(2),
    }))
    // What the contract keeps from being bought takes no part.
    const canBuy = lines.map(({ variant }) => {
      const number = guarded.index.numberOf.get(variant) as number
      return findRights(guarded, pricingContext, number).buy
    })
    return referencePromotions(
      priced,
      plain.map((each) => ({ ...each, holds: (line) => canBuy[line] === true && each.holds(line) })),
    )
  }
  compareCarts(promoted, { ...from, lines, past: [] }, cartByReference())
  const promotedContext = openPricingContext(promoted, from)
  if (!promotedContext.ok) throw new Error(promotedContext.error.code)
  const itemPromotions = () => openItemPromotions(promoted, promotedContext.value, at, NO_FACTS)
  const page = Array.from({ length: LISTED }, () => pick(variantCount))
  const contenders: readonly Contender[] = [
    {
      name: 'a plain price column',
      times: 1,
      run: () => {
        columnMemory(guarded).columns.clear()
        return computeColumn(guarded, pricingContext, 1000)
      },
    },
    {
      name: `a cart of ${LINES} lines`,
      times: 3,
      run: () => {
        const priced = priceCart(guarded, { ...from, lines, past: [] })
        if (!priced.ok) throw new Error(priced.error.code)
        return priced.value.total
      },
    },
    {
      name: `the same cart under ${PROMOTIONS} promotions`,
      times: 3,
      run: () => {
        const priced = priceCart(promoted, { ...from, lines, past: [] })
        if (!priced.ok) throw new Error(priced.error.code)
        return priced.value.total
      },
    },
    {
      name: `a page of ${LISTED} products`,
      times: 10,
      run: () =>
        page.map((number) => {
          if (!findRights(guarded, pricingContext, number).see) return null
          const { units, basis } = findPrice(guarded, pricingContext, number)
          const amount = toPrice(units, pricingContext.digits)
          const { limits } = findLimits(guarded, pricingContext, number)
          return { limits, tax: amount && taxPrice(guarded, pricingContext, number, { amount, basis }) }
        }),
    },
    {
      name: 'the same page under them',
      times: 10,
      run: () => {
        const open = itemPromotions()
        return page.map((number) => {
          if (!findRights(promoted, promotedContext.value, number).see) return null
          const found = findPrice(promoted, promotedContext.value, number)
          const { units, basis } = promotedPrice(open, number, found) ?? found
          const amount = toPrice(units, pricingContext.digits)
          const { limits } = findLimits(promoted, promotedContext.value, number)
          return {
            limits,
            tax: amount && taxPrice(promoted, promotedContext.value, number, { amount, basis }),
          }
        })
      },
    },
    {
      name: 'a column of promoted prices',
      times: 1,
      run: () => {
        columnMemory(promoted).columns.clear()
        return promotedColumn(itemPromotions(), computeColumn(promoted, promotedContext.value, 1000))
      },
    },
  ]
  const quick = await measure(contenders, repetitions)
  const reference = await measure(
    [
      contenders[2] as Contender,
      { name: 'the same in decimal.js, unit by unit', times: 1, run: cartByReference },
      {
        name: PRICED_PLAINLY,
        times: 1,
        run: () =>
          lines
            .slice(0, LINES_PRICED_PLAINLY)
            .map((line) => referencePrice(promoted.store, { ...from, ...line, basket: [] })),
      },
    ],
    REFERENCE_REPETITIONS,
  )
  return new Map([...quick, ...[...reference].map(([name, values]) => [`${name} (again)`, values] as const)])
}

/** Whoever is quick and wrong has not won. */
function compareCarts(
  prepared: PreparedStore,
  question: CartQuestion,
  expected: ReadonlyMap<string, string>,
): void {
  const priced = priceCart(prepared, question)
  if (!priced.ok) throw new Error(priced.error.code)
  const saved = priced.value.promotions.applied.map(({ promotion, saving }) => [promotion, saving] as const)
  const differing = saved.filter(([id, saving]) => Number(expected.get(id)) !== Number(saving))
  if (saved.length === expected.size && differing.length === 0) return
  console.log(`The cart under promotions differs from its reference: ${JSON.stringify(differing)}`)
  process.exitCode = 1
}
