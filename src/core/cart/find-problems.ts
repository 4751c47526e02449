import { takesBackOrders } from '../catalogue/stock'
import { add, compare, type Decimal, scaleOf, subtract, sum, ZERO } from '../decimal/decimal'
import { factsOf } from '../engine/items/catalogue-index'
import { stepOfSale } from '../engine/price/find-in-list'
import { fromHome } from '../engine/context/currency-view'
import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import { inWholePieces, isMultiple, type LimitRule, NO_LIMITS, type QuantityLimits } from '../limits/limit'
import { isAllowed, nearestQuantities, type Nearest } from '../limits/nearest-quantities'
import { type ItemFacts, matchWhat } from '../predicates/what'
import { getSettings } from '../store/store'
import { partsNeeded } from '../tax/find-levies'
import type { CartLine, CartProblem, LimitProblem, PastPurchase } from './cart'
import type { NumberedLine } from './cart-quantities'

interface Checked {
  readonly lines: readonly CartLine[]
  readonly numbered: readonly NumberedLine[]
  /** Of each line; `null` where it is not known. */
  readonly weights: readonly (Decimal | null)[]
  readonly goodsNet: Decimal
  readonly past: readonly PastPurchase[]
}

/** Everything that keeps a cart from being ordered, lines first. */
export function findProblems(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  checked: Checked,
): readonly CartProblem[] {
  const { lines, numbered } = checked
  const problems: CartProblem[] = []
  const checkedVariants = new Set<string>()
  const ordered = new Map<string, Decimal>()
  for (const { variant, quantity } of lines) ordered.set(variant, add(ordered.get(variant) ?? ZERO, quantity))
  lines.forEach((line, at) => {
    if (!line.access.buy) problems.push({ kind: 'access', line: at, access: line.access })
    else if (line.unit === null) {
      const gone = line.extras.find((id) => !isWith(prepared, id, (numbered[at] as NumberedLine).facts))
      problems.push(
        gone === undefined ? { kind: 'no-price', line: at } : { kind: 'extra-gone', line: at, extra: gone },
      )
    }
    // The same variant on several lines is one quantity.
    if (checkedVariants.has(line.variant)) return
    checkedVariants.add(line.variant)
    const quantity = ordered.get(line.variant) as Decimal
    const isPieces = stepOfSale(prepared, (numbered[at] as NumberedLine).number) > 0
    const limits = isPieces ? inWholePieces(line.limits.limits) : line.limits.limits
    const { stock } = line
    if (stock !== null && compare(quantity, stock) > 0 && !takesBackOrders(prepared.store, line.variant)) {
      const available = compare(stock, ZERO) > 0 ? stock : ZERO
      const { below } = nearestQuantities(available, limits)
      const isThere = below !== null && compare(below, ZERO) > 0 && compare(below, available) <= 0
      const nearest = { below: isThere ? below : null, above: null }
      problems.push({ kind: 'stock', line: at, available, nearest })
    }
    const problem = isPieces && !isWhole(quantity) ? NOT_WHOLE : findProblem(quantity, limits)
    if (!problem) return
    const field = FIELD_OF[problem.code]
    problems.push({
      kind: 'quantity',
      line: at,
      problem,
      source: field ? (line.limits.setBy[field] ?? null) : null,
      nearest: nearestQuantities(quantity, limits),
    })
  })
  for (const { rule } of pricingContext.terms.limits) {
    if (rule.counting === 'each' && rule.days === null) continue
    for (const members of countedTogether(rule, numbered))
      problems.push(...checkTogether(prepared, pricingContext, rule, members, checked))
  }
  problems.push(
    ...checkContracts(prepared, pricingContext, checked),
    ...checkPlace(prepared, pricingContext, lines),
  )
  return problems
}

/** Whether an extra is sold and made for an item. */
function isWith({ store }: PreparedStore, id: string, facts: ItemFacts): boolean {
  const extra = store.extra.get(id)
  return extra?.status === 'active' && matchWhat(extra.scope, facts).matches
}

const FIELD_OF = {
  'below-minimum': 'minimum',
  'above-maximum': 'maximum',
  'not-a-multiple': 'multiple',
  'not-allowed': 'values',
  contradictory: null,
  'not-whole': null,
} as const

const NOT_WHOLE: LimitProblem = { code: 'not-whole' }

function isWhole(quantity: Decimal): boolean {
  return scaleOf(quantity) === 0
}

/** What is wrong with a quantity; `null` when it is right. */
function findProblem(quantity: Decimal, limits: QuantityLimits): LimitProblem | null {
  if (isAllowed(quantity, limits)) return null
  const { below, above } = nearestQuantities(quantity, limits)
  if (below === null && above === null) return { code: 'contradictory' }
  if (limits.minimum !== null && compare(quantity, limits.minimum) < 0)
    return { code: 'below-minimum', limit: limits.minimum }
  if (limits.maximum !== null && compare(quantity, limits.maximum) > 0)
    return { code: 'above-maximum', limit: limits.maximum }
  if (limits.multiple !== null && !isMultiple(quantity, limits.multiple))
    return { code: 'not-a-multiple', limit: limits.multiple }
  return { code: 'not-allowed', limit: null }
}

/** What is wrong with a value or a weight, which may have any number of digits; `null` when it is right. */
function findTotalProblem(
  has: Decimal,
  minimum: Decimal | null,
  maximum: Decimal | null,
): LimitProblem | null {
  if (minimum !== null && compare(has, minimum) < 0) return { code: 'below-minimum', limit: minimum }
  return maximum !== null && compare(has, maximum) > 0 ? { code: 'above-maximum', limit: maximum } : null
}

/** Positions of lines that a rule counts together: each variant, each product, or all of its scope. */
function countedTogether(rule: LimitRule, numbered: readonly NumberedLine[]): readonly (readonly number[])[] {
  const groups = new Map<string, number[]>()
  numbered.forEach(({ facts, wanted, product }, at) => {
    if (!matchWhat(rule.scope, facts).matches) return
    const key = rule.counting === 'each' ? wanted.variant : rule.counting === 'product' ? product : ''
    const known = groups.get(key)
    if (known) known.push(at)
    else groups.set(key, [at])
  })
  return [...groups.values()]
}

function checkTogether(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  rule: LimitRule,
  members: readonly number[],
  checked: Checked,
): readonly CartProblem[] {
  const { lines, numbered, weights } = checked
  const problems: CartProblem[] = []
  const quantity = sum(members.map((at) => (lines[at] as CartLine).quantity))
  const before =
    rule.days === null ? ZERO : boughtBefore(prepared, pricingContext, rule, numbered, members, checked)
  // Only the most looks back; the other limits are of this order.
  const room = rule.maximum === null || before === ZERO ? rule.maximum : subtract(rule.maximum, before)
  const limits = { ...NO_LIMITS, minimum: rule.minimum, maximum: room, multiple: rule.multiple }
  const isSpent = room !== null && compare(room, ZERO) <= 0
  const problem: LimitProblem | null = isSpent
    ? { code: 'above-maximum', limit: rule.maximum }
    : findProblem(quantity, limits)
  if (problem)
    problems.push({
      kind: 'together',
      rule,
      lines: members,
      measure: 'quantity',
      problem: problem.code === 'above-maximum' ? { ...problem, limit: rule.maximum } : problem,
      has: add(quantity, problem.code === 'above-maximum' ? before : ZERO),
      before,
      nearest: isSpent ? { below: null, above: null } : nearestQuantities(quantity, limits),
    })
  const digits = pricingContext.digits
  const inCurrency = (amount: Decimal | null) =>
    amount && fromHome(prepared, pricingContext.currencyView, amount, digits)
  const value = sum(members.map((at) => lines[at]?.amount?.net ?? ZERO))
  const known = members.map((at) => weights[at] ?? null).filter((weight) => weight !== null)
  const total = (
    measure: 'value' | 'weight',
    has: Decimal,
    minimum: Decimal | null,
    maximum: Decimal | null,
  ) => {
    const wrong = findTotalProblem(has, minimum, maximum)
    const nearest: Nearest = { below: maximum, above: minimum }
    if (wrong)
      problems.push({ kind: 'together', rule, lines: members, measure, problem: wrong, has, before, nearest })
  }
  total('value', value, inCurrency(rule.minimumValue), inCurrency(rule.maximumValue))
  total('weight', sum(known), rule.minimumWeight, rule.maximumWeight)
  return problems
}

const DAY = 86_400_000

/** How much the buyer ordered in the days of a rule, of what it counts together with these lines. */
function boughtBefore(
  prepared: PreparedStore,
  { at }: PricingContext,
  rule: LimitRule,
  numbered: readonly NumberedLine[],
  members: readonly number[],
  { past }: Checked,
): Decimal {
  const since = at - (rule.days as number) * DAY
  const first = numbered[members[0] as number] as NumberedLine
  const { store, index } = prepared
  return sum(
    past
      .filter((purchase) => purchase.at > since && purchase.at <= at)
      .filter(({ variant }) => {
        if (rule.counting === 'each') return variant === first.wanted.variant
        const number = index.numberOf.get(variant)
        if (number === undefined) return false
        if (rule.counting === 'product') return store.variant.get(variant)?.product === first.product
        return matchWhat(rule.scope, factsOf(store, index, number)).matches
      })
      .map(({ quantity }) => quantity),
  )
}

/** Where taxes are those of a state, a postcode or a city and the place does not say which, they cannot be known. */
function checkPlace(
  prepared: PreparedStore,
  { terms, at }: PricingContext,
  lines: readonly CartLine[],
): readonly CartProblem[] {
  if (lines.length === 0 || terms.untaxed !== null) return []
  if (getSettings(prepared.store).taxPlace === 'store') return []
  return partsNeeded(prepared.terms.taxes, terms.taxPlace, at).map((part) => ({ kind: 'place', part }))
}

/** Contracts may ask for a least value of an order; of several the one that comes first counts. */
function checkContracts(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  { goodsNet, lines }: Checked,
): readonly CartProblem[] {
  const contract = pricingContext.contracts.find(({ minimumOrder }) => minimumOrder !== null)
  if (!contract?.minimumOrder || lines.length === 0) return []
  const isForeign = contract.currency !== null && contract.currency === pricingContext.currency
  const limit = isForeign
    ? contract.minimumOrder
    : fromHome(prepared, pricingContext.currencyView, contract.minimumOrder, pricingContext.digits)
  if (limit === null || compare(goodsNet, limit) >= 0) return []
  return [
    {
      kind: 'contract-minimum',
      contract: contract.id,
      limit,
      currency: pricingContext.currency,
      has: goodsNet,
    },
  ]
}
