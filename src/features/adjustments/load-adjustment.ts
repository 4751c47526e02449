import 'server-only'

import { compare, type Decimal } from '@/core/decimal/decimal'
import { withChanges } from '@/core/engine/prepare'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { writeWhat } from '@/core/notation/what-text'
import { writeWho } from '@/core/notation/who-text'
import { turnAfter } from '@/core/predicates/schedule-outlook'
import type { What, WhatTerm } from '@/core/predicates/what'
import type { Who } from '@/core/predicates/who'
import { compileSchedule } from '@/core/predicates/when'
import type { Adjustment } from '@/core/price/adjustment'
import { getSettings, type Store } from '@/core/store/store'
import { type EffectBuyer, buyerContextOf, usualBuyers } from '@/sheet/effect/buyers'
import {
  amountOn,
  meanPercent,
  type MovesSummary,
  type PriceMove,
  priceMoves,
  type PriceSide,
  priceSide,
  summaryOf,
} from '@/sheet/effect/price-moves'
import type { LoadedSheet } from '@/sheet/record/load-sheet'
import { formatMoney, rangeText } from '@/ui/format/amount'
import { recordHref } from '@/ui/frame/record-href'
import { leaveOutWhat } from '@/ui/picker/what/what-marks'

/** A product whose prices move, its variants together. */
export interface MovedProduct {
  readonly code: string
  /** What the adjustment is for without it, as it is typed. */
  readonly scopeWithout: string
  readonly name: string
  readonly href: string
  readonly variants: number
  readonly before: string
  readonly after: string
  /** The lowest of its variants. */
  readonly marginBefore: Decimal | null
  readonly marginAfter: Decimal | null
  readonly isBelowCost: boolean
}

export interface AdjustmentView {
  /** Whose prices the table shows: the first kind of buyer it moves any for. */
  readonly buyer: string
  readonly summary: MovesSummary
  readonly products: readonly MovedProduct[]
  readonly margins: readonly [before: Decimal | null, after: Decimal | null]
  readonly buyers: readonly {
    readonly name: string
    readonly href: string | null
    readonly moved: number
    readonly mean: Decimal | null
  }[]
  /** Products that are left out by name, with what the adjustment is for with them in it again. */
  readonly leftOut: readonly {
    readonly name: string
    readonly href: string
    readonly code: string
    readonly scopeWith: string
  }[]
  /** Groups that pay more than guests while it is on, with whom it is for once they are in it; `null` if they are. */
  readonly overtaken: readonly {
    readonly name: string
    readonly count: number
    readonly example: string
    readonly audienceWith: string | null
  }[]
  readonly isOn: boolean
  /** Whether it holds at the vantage's instant, and until when that stays so: epoch milliseconds, infinite for good. */
  readonly holds: boolean
  readonly until: number
  readonly now: number
  readonly timeZone: string
}

/** What switching an adjustment on moves, looked at when it holds next: product by product, lowest margin first. */
export async function loadAdjustment({
  record,
  id,
  before,
  after,
}: LoadedSheet): Promise<AdjustmentView | null> {
  const prepared = (after ?? before).prepared
  const adjustment = prepared.store.adjustment.get(id)
  if (!adjustment) return null
  const { timeZone } = getSettings(prepared.store)
  const compiled = compileSchedule(adjustment.schedule, timeZone)
  const now = before.buyerContext.at
  const turn = turnAfter(compiled, now)
  // Before its time it is looked at when it begins.
  const at = turn.isOn || !Number.isFinite(turn.until) ? now : turn.until
  const on = switched(prepared, adjustment, 'on')
  const off = switched(prepared, adjustment, 'off')
  const buyers = usualBuyers(prepared.store)
  const quantity = before.quantity
  const found: {
    readonly buyer: EffectBuyer
    readonly moves: readonly PriceMove[]
    readonly side: PriceSide
  }[] = []
  for (const buyer of buyers) {
    const look = buyerContextOf(buyer, before, at)
    const side = priceSide(on, look, quantity)
    found.push({ buyer, side, moves: await priceMoves(priceSide(off, look, quantity), side) })
  }
  const shown = found.find(({ moves }) => moves.length > 0) ?? found[0]
  const moves = shown?.moves ?? []
  const margins = (pick: 'marginBefore' | 'marginAfter') =>
    meanPercent(moves.flatMap((move) => move[pick] ?? []))
  return {
    buyer: shown?.buyer.name ?? 'Guests',
    summary: summaryOf(moves),
    products: byProduct(prepared.store, adjustment.scope, moves, shown?.side.pricingContext.digits ?? 2),
    leftOut: leftOutOf(prepared.store, adjustment.scope),
    margins: [margins('marginBefore'), margins('marginAfter')],
    buyers: found.map(({ buyer, moves: own }) => {
      const { moved, mean } = summaryOf(own)
      return { name: buyer.name, href: buyer.href, moved, mean }
    }),
    overtaken: overtakenBy(prepared.store, adjustment.audience, found),
    isOn: record['state'] === 'on',
    holds: turn.isOn,
    until: turn.until,
    now,
    timeZone,
  }
}

function switched(
  prepared: PreparedStore,
  adjustment: Adjustment,
  state: Adjustment['state'],
): PreparedStore {
  return adjustment.state === state
    ? prepared
    : withChanges(prepared, [
        { kind: 'adjustment', id: adjustment.id, before: adjustment, after: { ...adjustment, state } },
      ])
}

function leftOutOf(store: Store, scope: What): AdjustmentView['leftOut'] {
  return scope.exclude.flatMap((term) => {
    const product = term.kind === 'product' && store.product.get(term.product)
    if (!product) return []
    const { name, code } = product
    const exclude = scope.exclude.filter((each) => each !== term)
    return [
      { name, href: recordHref('products', code), code, scopeWith: writeWhat(store, { ...scope, exclude }) },
    ]
  })
}

function byProduct(
  store: Store,
  scope: What,
  moves: readonly PriceMove[],
  digits: number,
): readonly MovedProduct[] {
  const groups = new Map<string, PriceMove[]>()
  for (const move of moves) {
    const own = groups.get(move.item.product.id)
    if (own) own.push(move)
    else groups.set(move.item.product.id, [move])
  }
  return [...groups.values()]
    .map((own): MovedProduct => {
      const { product } = (own[0] as PriceMove).item
      const itself: WhatTerm = { kind: 'product', product: product.id }
      return {
        name: product.name,
        code: product.code,
        scopeWithout: writeWhat(store, leaveOutWhat(scope, itself)),
        href: recordHref('products', product.code),
        variants: own.length,
        before: rangeText(
          own.map((move) => move.before),
          digits,
        ),
        after: rangeText(
          own.map((move) => move.after),
          digits,
        ),
        marginBefore: lowest(own.map((move) => move.marginBefore)),
        marginAfter: lowest(own.map((move) => move.marginAfter)),
        isBelowCost: own.some((move) => move.isBelowCost),
      }
    })
    .sort((left, right) => compareMargins(left.marginAfter, right.marginAfter))
}

function lowest(margins: readonly (Decimal | null)[]): Decimal | null {
  return margins.flatMap((margin) => margin ?? []).sort(compare)[0] ?? null
}

function compareMargins(left: Decimal | null, right: Decimal | null): number {
  if (left === null || right === null) return Number(left === null) - Number(right === null)
  return compare(left, right)
}

/** Groups that pay more than guests for what the adjustment moves, while it is on. */
function overtakenBy(
  store: Store,
  audience: Who,
  found: readonly {
    readonly buyer: EffectBuyer
    readonly moves: readonly PriceMove[]
    readonly side: PriceSide
  }[],
): AdjustmentView['overtaken'] {
  const [guests, ...groups] = found
  if (!guests) return []
  return groups.flatMap(({ buyer, side }) => {
    if (side.pricingContext.currency !== guests.side.pricingContext.currency) return []
    const dearer = guests.moves.flatMap(({ item, after }) => {
      const theirs = amountOn(side, item.number)
      return after !== null && theirs !== null && compare(theirs, after) > 0 ? [{ item, after, theirs }] : []
    })
    const [first] = dearer
    if (!first) return []
    const { currency, digits } = side.pricingContext
    const money = (amount: Decimal) => formatMoney(amount, currency, digits)
    return [
      {
        name: buyer.name,
        count: dearer.length,
        audienceWith: audienceWith(store, audience, buyer),
        example: `${first.item.product.name} ${money(first.theirs)} against ${money(first.after)}`,
      },
    ]
  })
}

function audienceWith(store: Store, audience: Who, { buyer }: EffectBuyer): string | null {
  if (buyer.kind !== 'group') return null
  const { group } = buyer
  const isNamed = audience.include.some((term) => term.kind === 'group' && term.group === group)
  return isNamed
    ? null
    : writeWho(store, { ...audience, include: [...audience.include, { kind: 'group', group }] })
}
