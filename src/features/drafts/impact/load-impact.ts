import 'server-only'

import type { Decimal } from '@/core/decimal/decimal'
import { QUANTITY_UNITS } from '@/core/engine/lists/compiled-line'
import { fromUnits } from '@/core/engine/lists/price-step'
import type { ClassImpact } from '@/core/impact/class-impact'
import type { MovedPrice } from '@/core/impact/compare-prices'
import {
  isBelow,
  isNewlyAbovePublic,
  isNewlyBelow,
  marginOf,
  movePercent,
  ONCE,
  summarize,
  type Weights,
  worstMovesFirst,
} from '@/core/impact/summary'
import type { Store } from '@/core/store/store'
import { currentInstant } from '@/server/clock'
import type { Steppe } from '@/server/engine/steppe'
import { soldSince } from '@/server/shop/sold-since'
import { formatAmount, formatMoney } from '@/ui/format/amount'
import { recordHref } from '@/ui/frame/record-href'
import { type ClassName, contractsOfClass, nameOfClass } from './class-names'
import type { ReviewShown } from '../review/review-url'
import type { BelowCostRow, CellRow, ClassRow, ImpactView } from '../review/review-view'
import { otherLines, seesRows } from './sees-rows'
import { titleOf } from './title-of'

/** How many prices of a class are shown before "more", and how many ticks are drawn. */
const FIRST_CELLS = 6
const MOST_CELLS = 500
const MOST_TICKS = 160
/** Sales of so many days say how much each price counts. */
const SALES_DAYS = 90
const DAY = 86_400_000

interface NamedImpact {
  readonly impact: ClassImpact
  readonly name: ClassName
}

/** Two states of the store, and what moves between them. */
interface Compared {
  readonly steppe: Steppe
  readonly before: Store
  readonly after: Store
  readonly impacts: readonly ClassImpact[]
}

/** What moves for whom between two states of the store, as its tables show it. */
export async function loadImpact(
  { steppe, before, after, impacts }: Compared,
  about: Pick<ImpactView, 'address' | 'names' | 'exportHref'>,
  shown: ReviewShown,
): Promise<ImpactView> {
  const weightOf = shown.counts === 'sold' ? await weightsBySales(steppe) : ONCE
  const named = impacts
    .map((impact) => ({ impact, name: nameOfClass(impact.of, after, before) }))
    .filter(({ impact }) => impact.prices.length > 0 || impact.costs.length > 0)
  const classes = named.map((each) => toClassRow(each, weightOf)).sort(worstFirst)
  const all = summarize(impacts, weightOf)
  const opened = named.find(
    ({ name }) => name.key === (shown.who ?? (classes.length === 1 ? classes[0]?.key : null)),
  )
  return {
    ...about,
    moved: all.moved,
    classCount: named.filter(({ impact }) => impact.prices.length > 0).length,
    costs: impacts.reduce((sum, { costs }) => sum + costs.length, 0),
    belowCost: all.newlyBelowCost,
    abovePublic: all.newlyAbovePublic,
    contracts: contractsTouched(named, after),
    classes,
    all: {
      moved: all.moved,
      marginBefore: all.marginBefore,
      marginAfter: all.marginAfter,
      breakEven: all.breakEven,
      belowCost: all.newlyBelowCost,
    },
    opened: opened ? openedClass(opened, after, before, shown.isWhole) : null,
    sees: impacts.flatMap((impact) => seesRows(impact, after, before)),
    below: named.flatMap((each) => belowRows(each, after)).slice(0, 12),
    others: impacts.flatMap((impact) => otherLines(impact, after, before)),
  }
}

async function weightsBySales(steppe: Steppe): Promise<Weights> {
  const since = new Date(currentInstant().getTime() - SALES_DAYS * DAY)
  const sold = await soldSince(steppe, since)
  return (variant) => Math.round((sold.get(variant) ?? 0) * QUANTITY_UNITS)
}

function toClassRow({ impact, name }: NamedImpact, weightOf: Weights): ClassRow {
  const summary = summarize([impact], weightOf)
  const percents = impact.prices
    .map(movePercent)
    .filter((percent) => percent !== null)
    .map(Number)
    .sort((left, right) => left - right)
  const every = Math.max(1, Math.ceil(percents.length / MOST_TICKS))
  return {
    ...name,
    currency: impact.of.currency,
    moved: summary.moved,
    percents: percents.filter((_, at) => at % every === 0 || at === percents.length - 1),
    median: summary.median === null ? null : Number(summary.median),
    marginBefore: summary.marginBefore,
    marginAfter: summary.marginAfter,
    breakEven: summary.breakEven,
    belowCost: summary.newlyBelowCost,
  }
}

function worstFirst(left: ClassRow, right: ClassRow): number {
  const lost = ({ marginBefore, marginAfter }: ClassRow) =>
    Number(marginBefore ?? 0) - Number(marginAfter ?? 0)
  return right.belowCost - left.belowCost || lost(right) - lost(left) || right.moved - left.moved
}

function openedClass(
  { impact, name }: NamedImpact,
  store: Store,
  before: Store,
  isWhole: boolean,
): NonNullable<ImpactView['opened']> {
  const rows = worstMovesFirst([...impact.prices, ...impact.costs])
  const most = isWhole ? MOST_CELLS : FIRST_CELLS
  return {
    key: name.key,
    rows: rows.slice(0, most).map((price) => toCell(price, impact, store, before)),
    more: Math.max(0, rows.length - most),
  }
}

function toCell(price: MovedPrice, { digits }: ClassImpact, store: Store, before: Store): CellRow {
  const { variant, quantity, costBefore, costAfter } = price
  const record = store.variant.get(variant) ?? before.variant.get(variant)
  return {
    sku: record?.sku ?? variant,
    title: titleOf(variant, store, before),
    from: quantity === QUANTITY_UNITS ? '' : `from ${quantity / QUANTITY_UNITS}`,
    quantity: quantity / QUANTITY_UNITS,
    before: moneyText(price.before, digits),
    after: moneyText(price.after, digits),
    marginBefore: marginOf(price.before, costBefore),
    marginAfter: marginOf(price.after, costAfter),
    isBelowCost: isBelow(price.after, costAfter),
    isAbovePublic: isNewlyAbovePublic(price),
  }
}

function moneyText(units: number, digits: number): string {
  return Number.isNaN(units) ? 'no price' : formatAmount(amountOf(units, digits), digits)
}

function amountOf(units: number, digits: number): Decimal {
  return fromUnits(Math.round(units), digits)
}

function contractsTouched(named: readonly NamedImpact[], store: Store): ImpactView['contracts'] {
  const touched = new Map<string, { moved: number; below: number }>()
  for (const { impact } of named)
    for (const id of contractsOfClass(impact, store)) {
      const known = touched.get(id) ?? { moved: 0, below: 0 }
      touched.set(id, known)
      known.moved += impact.prices.length
      known.below += newlyBelow(impact).length
    }
  return [...touched].flatMap(([id, counts]) => {
    const contract = store.contract.get(id)
    if (!contract || counts.moved + counts.below === 0) return []
    const name = `${contract.code} ${contract.name}`
    return [{ name, href: recordHref('contracts', contract.code), ...counts }]
  })
}

/** Prices that do not bring their cost back any more, whichever of the two has moved. */
function newlyBelow({ prices, costs }: ClassImpact): readonly MovedPrice[] {
  return [...prices, ...costs].filter(isNewlyBelow)
}

function belowRows({ impact, name }: NamedImpact, store: Store): readonly BelowCostRow[] {
  const { digits, currency } = impact
  return newlyBelow(impact).map(({ variant, after, costAfter }) => ({
    who: name.name,
    title: titleOf(variant, store, store),
    price: formatMoney(amountOf(after, digits), currency.after ?? '', digits),
    cost: formatMoney(amountOf(costAfter, digits), currency.after ?? '', digits),
  }))
}
