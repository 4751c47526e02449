import 'server-only'

import { itemName } from '@/core/catalogue/product'
import { type Decimal, isPositive } from '@/core/decimal/decimal'
import { EVERYTHING } from '@/core/predicates/what'
import { differencePercent } from '@/core/decimal/difference-percent'
import { isBelowCost, marginPercent } from '@/core/price/margin'
import { medianDeviation } from '@/core/reprice/median-deviation'
import type { RepriceRow } from '@/core/reprice/reprice'
import { isOutlying, type RepriceFigures, repriceFigures } from '@/core/reprice/reprice-figures'
import { digitsOfTarget, placeKey } from '@/core/reprice/reprice-target'
import { atOnce } from '@/core/steps/steps'
import { getSettings, type Store } from '@/core/store/store'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { RequestContext } from '@/server/engine/request-context'
import { revisionKey } from '@/server/records/record-tables'
import { formatAmount, formatPercent } from '@/ui/format/amount'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { whatSentence } from '@/ui/format/rule-phrases'
import { recordHref } from '@/ui/frame/record-href'
import { readReprice } from './read-reprice'
import { factChoices, fieldChoices, sourceChoices } from './reprice-choices'
import { reprice, type Repriced } from './reprice-rows'
import { PAGE_ROWS, type RepriceRowView, type RepriceView } from './reprice-view'
import type { RepriceShown } from './reprice-url'

const BARS = 12
const NOTHING: Repriced = { rows: [], figures: atOnce(repriceFigures([])) }

/** What a rule would make of many amounts, before anything is written. */
export async function loadReprice({ view, live }: RequestContext, shown: RepriceShown): Promise<RepriceView> {
  const { store } = view.prepared
  const read = readReprice(store, shown)
  const target = read.ok ? (read.rule?.target ?? null) : null
  const priceDigits = target ? digitsOfTarget(store, target) : getSettings(store).priceDigits
  const what = read.ok ? (read.rule?.what ?? EVERYTHING) : EVERYTHING
  const isOfCosts = target !== null && target.kind !== 'list' && target.field === 'cost'
  const { rows, figures } = read.ok && read.rule ? await reprice(view, shown, read.rule) : NOTHING
  const { changing, same, problems, outliers, moves, median, quartiles, belowCost, margins } = figures
  const groups = { all: rows, outliers: rows.filter((row) => outliers.has(row)), same, problems }
  const tab = [...groups[shown.tab]].sort(sorter(shown.sort, view.prepared, figures))
  const start = Math.min(shown.page, Math.max(0, Math.ceil(tab.length / PAGE_ROWS) - 1)) * PAGE_ROWS
  const inDraft = view.draft
    ? changing.filter(({ record, id }) => view.draft?.known.has(revisionKey({ kind: record, id }))).length
    : 0
  return {
    shown,
    what,
    whatWords: whatSentence(what, store),
    problem: read.ok ? null : { field: read.field, problem: read.problem },
    isAsked: read.ok && read.rule !== null,
    rows: tab
      .slice(start, start + PAGE_ROWS)
      .map((row) => toRowView(row, view.prepared, priceDigits, outliers.has(row))),
    counts: {
      all: groups.all.length,
      outliers: groups.outliers.length,
      same: groups.same.length,
      problems: groups.problems.length,
    },
    total: tab.length,
    start,
    median: signedPercent(median),
    middleHalf: quartiles && quartiles[0] !== quartiles[1] ? quartiles.map(signedPercent).join(' and ') : '',
    bars: barsOf(moves),
    // What the costs themselves come to leaves nothing to compare them with.
    margin: margins && !isOfCosts ? { now: shareText(margins.now), next: shareText(margins.next) } : null,
    belowCost: isOfCosts ? 0 : belowCost,
    // Only what a price starts from leaves fixed prices behind.
    fixedLines:
      target?.kind === 'amount' && target.field === 'basePrice' ? fixedLinesOf(changing, store) : null,
    draft: view.draft ? { name: view.draft.draft.name, already: inDraft } : null,
    live,
    choices: {
      fields: fieldChoices(store, shown.field),
      facts: factChoices(store, shown.only),
      sources: sourceChoices(shown.field),
    },
  }
}

function signedPercent(percent: Decimal | null): string {
  const text = shareText(percent)
  return percent !== null && isPositive(percent) ? `+${text}` : text
}

function shareText(share: Decimal | null): string {
  return share === null ? '–' : formatPercent(share)
}

function sorter(
  sort: RepriceShown['sort'],
  prepared: PreparedStore,
  { percentOf }: RepriceFigures,
): (left: RepriceRow, right: RepriceRow) => number {
  const size = (row: RepriceRow) => Math.abs(percentOf.get(row) ?? 0)
  if (sort === 'name') {
    const names = new Map<RepriceRow, string>()
    const nameOf = (row: RepriceRow) => {
      const known = names.get(row) ?? titleOf(row, prepared)
      names.set(row, known)
      return known
    }
    return (left, right) => (nameOf(left) < nameOf(right) ? -1 : 1)
  }
  if (sort === 'price') return (left, right) => Number(right.now ?? 0) - Number(left.now ?? 0)
  return (left, right) => size(right) - size(left)
}

/** What a row is for: a product where it is for several of its variants, else one of them. */
function itemOf({ record, numbers }: RepriceRow, { store, index }: PreparedStore) {
  const variant = store.variant.get(index.items[numbers[0] ?? -1] ?? '')
  const product = store.product.get(variant?.product ?? '')
  return { product, variant: record === 'product' || numbers.length > 1 ? undefined : variant }
}

function titleOf(row: RepriceRow, prepared: PreparedStore): string {
  const { store } = prepared
  const { product, variant } = itemOf(row, prepared)
  if (row.record !== 'price-line')
    return product && variant ? itemName(product, variant) : (product?.name ?? row.id)
  const line = store['price-line'].get(row.id)
  const from = line?.breaks[row.at]?.from ?? '0'
  const name = product && variant ? itemName(product, variant) : line ? whatSentence(line.scope, store) : ''
  return from === '0' ? name : `${name}, from ${from}`
}

function toRowView(
  row: RepriceRow,
  prepared: PreparedStore,
  digits: number,
  isOutlier: boolean,
): RepriceRowView {
  const { now, byRule, next, cost, problem } = row
  const { product, variant } = itemOf(row, prepared)
  const money = (amount: Decimal | null) => (amount === null ? '–' : formatAmount(amount, digits))
  const percent = now !== null && next !== null ? differencePercent(next, now) : null
  const margin = (amount: Decimal | null) => {
    const share = amount !== null && cost !== null ? marginPercent(amount, cost) : null
    return shareText(share).replace(' %', '')
  }
  return {
    key: placeKey(row),
    title: titleOf(row, prepared),
    code: variant?.sku ?? product?.code ?? '',
    href: recordHref('products', product?.code ?? ''),
    now: money(now),
    byRule: money(byRule),
    next: money(next),
    percent: percent === null ? null : signedPercent(percent),
    isOutlier,
    cost: money(cost),
    marginNow: margin(now),
    marginNext: margin(next),
    isBelowCost: next !== null && cost !== null && isBelowCost(next, cost),
    problem:
      problem === null
        ? ''
        : problem === 'reaches-further'
          ? 'This price is for other items too, which are not meant. Choose them as well, or change it in its list.'
          : refusalSentence({ code: 'expression', error: problem, typed: 'This rule', digits }),
  }
}

function barsOf(sorted: readonly number[]): RepriceView['bars'] {
  const { median, deviation } = medianDeviation(sorted)
  const [low, high] = [sorted[0], sorted.at(-1)]
  if (low === undefined || high === undefined) return []
  const width = Math.max(0.5, (high - low) / BARS)
  const bars = Array.from({ length: Math.max(1, Math.ceil((high - low) / width + 1e-9)) }, (_, at) => ({
    from: low + at * width,
    to: low + (at + 1) * width,
    count: 0,
  }))
  for (const percent of sorted) {
    const bar = bars[Math.min(bars.length - 1, Math.floor((percent - low) / width))]
    if (bar) bar.count += 1
  }
  return bars.map((bar) => ({
    ...bar,
    isOutlier: isOutlying((bar.from + bar.to) / 2, median, deviation),
  }))
}

/** Lines that fix a price of a variant that changes: they do not follow. */
function fixedLinesOf(changing: readonly RepriceRow[], store: Store): number {
  const variants = new Set(changing.filter(({ record }) => record === 'variant').map(({ id }) => id))
  const products = new Set(changing.filter(({ record }) => record === 'product').map(({ id }) => id))
  let count = 0
  for (const { scope, breaks } of store['price-line'].values()) {
    if (!breaks.some(({ method }) => method.kind === 'fixed')) continue
    const names = scope.include.some(
      (term) =>
        (term.kind === 'variant' &&
          (variants.has(term.variant) || products.has(store.variant.get(term.variant)?.product ?? ''))) ||
        (term.kind === 'product' && products.has(term.product)),
    )
    if (names) count += 1
  }
  return count
}
