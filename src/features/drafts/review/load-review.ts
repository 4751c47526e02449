import 'server-only'

import type { Decimal } from '@/core/decimal/decimal'
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
import { QUANTITY_UNITS } from '@/core/engine/lists/compiled-line'
import { fromUnits } from '@/core/engine/lists/price-step'
import type { Store } from '@/core/store/store'
import { getSettings, priceDigitsOf } from '@/core/store/store'
import { verdictsOf } from '@/server/proofs/verdicts'
import { proofSentence, verdictText } from '@/ui/format/proof-phrases'
import { changeWords } from '@/sheet/effect/change-words'
import { draftImpact, type DraftView } from '@/server/drafts/draft-impact'
import { latestEdits } from '@/server/drafts/draft-rows'
import { soldSince } from '@/server/shop/sold-since'
import { currentInstant } from '@/server/clock'
import { formatAmount, formatMoney } from '@/ui/format/amount'
import { formatDay, formatMoment } from '@/ui/format/instant'
import { recordHref } from '@/ui/frame/record-href'
import { toConflict } from './conflict-view'
import { otherLines, seesRows } from './sees-rows'
import { titleOf } from './title-of'
import { type ClassName, contractsOfClass, nameOfClass } from './class-names'
import { failureSentence } from '../draft-sentences'
import type { BelowCostRow, CellRow, ClassRow, ReviewView } from './review-view'
import type { ReviewShown } from './review-url'

/** How many prices of a class are shown before "more", and how many ticks are drawn. */
const FIRST_CELLS = 6
const MOST_CELLS = 500
const MOST_TICKS = 160
const MOST_EDITS = 1_000
/** Sales of so many days say how much each price counts. */
const SALES_DAYS = 90
const DAY = 86_400_000

interface NamedImpact {
  readonly impact: ClassImpact
  readonly name: ClassName
}

/** Everything the review of a draft shows. */
export async function loadReview(view: DraftView, shown: ReviewShown): Promise<ReviewView> {
  const { prepared, draft: viewed, steppe } = view
  const { draft, changes, conflicts, live } = viewed
  const { store } = prepared
  const { timeZone } = getSettings(store)
  const impacts = await draftImpact(view)
  const proofs = await proofsOf(view)
  const weightOf = shown.counts === 'sold' ? await weightsBySales(view) : ONCE
  const named = impacts
    .map((impact) => ({ impact, name: nameOfClass(impact.of, store, live.store) }))
    .filter(({ impact }) => impact.prices.length > 0)
  const classes = named.map((each) => toClassRow(each, weightOf)).sort(worstFirst)
  const all = summarize(impacts, weightOf)
  const edits = await latestEdits(steppe.database, draft.id, MOST_EDITS)
  const opened = named.find(
    ({ name }) => name.key === (shown.who ?? (classes.length === 1 ? classes[0]?.key : null)),
  )
  return {
    code: draft.code,
    name: draft.name,
    about: aboutOf(
      changes.length,
      edits.map(({ author }) => author),
      formatDay(draft.at, timeZone),
    ),
    moved: all.moved,
    classCount: named.length,
    belowCost: all.newlyBelowCost,
    abovePublic: all.newlyAbovePublic,
    contracts: contractsTouched(named, store),
    classes,
    all: {
      moved: all.moved,
      marginBefore: all.marginBefore,
      marginAfter: all.marginAfter,
      breakEven: all.breakEven,
      belowCost: all.newlyBelowCost,
    },
    opened: opened ? openedClass(opened, store, live.store, shown.isWhole) : null,
    sees: impacts.flatMap((impact) => seesRows(impact, store, live.store)),
    changes: changes.map((change) => changeWords(change, live.store, store)),
    proofs,
    conflicts: conflicts.map((conflict) => toConflict(conflict, live.store, store)),
    below: named.flatMap((each) => belowRows(each, store)).slice(0, 12),
    others: impacts.flatMap((impact) => otherLines(impact, store, live.store)),
    planned: draft.publishAt && {
      at: draft.publishAt.toISOString(),
      text: formatMoment(draft.publishAt.getTime(), timeZone),
      reason: draft.reason,
    },
    failure: draft.failure === null ? '' : failureSentence(draft.failure),
    timeZone,
    today: currentInstant().toISOString(),
  }
}

/** What the draft does to the proofs. */
async function proofsOf({ prepared, draft: { live } }: DraftView): Promise<ReviewView['proofs']> {
  const verdicts = await verdictsOf(prepared)
  const before = new Map((await verdictsOf(live)).map(({ proof, state }) => [proof.id, state]))
  return {
    holds: verdicts.filter(({ state }) => state === 'holds').length,
    broken: verdicts
      .filter(({ state }) => state === 'broken' || state === 'empty')
      .map((verdict) => ({
        sentence: proofSentence(verdict.proof, prepared.store),
        href: recordHref('proofs', verdict.proof.code),
        found: verdictText(verdict, (currency) => priceDigitsOf(prepared.store, currency)),
        isBlocking: verdict.proof.isBlocking,
        isBrokenLive: before.get(verdict.proof.id) === verdict.state,
      })),
  }
}

function aboutOf(count: number, authors: readonly string[], since: string): string {
  const by = [...new Set(authors)]
  const who =
    by.length === 0
      ? ''
      : ` by ${by
          .slice(0, 3)
          .join(', ')
          .replace(/, ([^,]*)$/, ' and $1')}`
  return `${count} ${count === 1 ? 'change' : 'changes'}${who} since ${since}`
}

async function weightsBySales({ steppe }: DraftView): Promise<Weights> {
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
): NonNullable<ReviewView['opened']> {
  const rows = worstMovesFirst(impact.prices)
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

function contractsTouched(named: readonly NamedImpact[], store: Store): ReviewView['contracts'] {
  const moved = new Map<string, number>()
  for (const { impact } of named)
    for (const id of contractsOfClass(impact, store))
      moved.set(id, (moved.get(id) ?? 0) + impact.prices.length)
  return [...moved].flatMap(([id, count]) => {
    const contract = store.contract.get(id)
    return contract
      ? [
          {
            name: `${contract.code} ${contract.name}`,
            href: recordHref('contracts', contract.code),
            moved: count,
          },
        ]
      : []
  })
}

function belowRows({ impact, name }: NamedImpact, store: Store): readonly BelowCostRow[] {
  const { digits, currency } = impact
  return impact.prices.filter(isNewlyBelow).map(({ variant, after, costAfter }) => ({
    who: name.name,
    title: titleOf(variant, store, store),
    price: formatMoney(amountOf(after, digits), currency.after ?? '', digits),
    cost: formatMoney(amountOf(costAfter, digits), currency.after ?? '', digits),
  }))
}
