import { compare, type Decimal, ZERO } from '../../decimal/decimal'
import { type WhatTerm, whatTermKey } from '../../predicates/what'
import { compareLines, type PriceLine } from './price-list'
import { forAnyQuantity, type PriceMethod, type QuantityBreak } from './price-method'

/** A line of a list before and after; `null` means it did not, or does no longer, exist. */
export interface LineChange {
  readonly before: PriceLine | null
  readonly after: PriceLine | null
}

/** One thing a price can be fixed for. */
export type ItemTerm = Extract<WhatTerm, { readonly kind: 'variant' | 'extra' }>

/** The place behind the last line. */
export function nextPosition(lines: readonly PriceLine[]): number {
  return lines.reduce((last, { position }) => Math.max(last, position), -1) + 1
}

/**
 * What must change in a list's lines so that one variant or extra costs a fixed amount in it.
 *
 * The line that is for this item alone is changed, or one is added under `id`. Every other line that names
 * the item no longer does: it is as specific, and would win by standing first. A line with quantity breaks
 * keeps those the quantity does not reach.
 *
 * Units   amount in the list's currency, above zero; `lines` are all lines of the list.
 */
export function fixPrice(
  lines: readonly PriceLine[],
  term: ItemTerm,
  amount: Decimal,
  { list, id, quantity }: { readonly list: string; readonly id: string; readonly quantity: Decimal },
): readonly LineChange[] {
  const own = ownLines(lines, term)[0] ?? null
  const released = lines
    .filter((line) => line !== own && names(line, term))
    .map((line) => ({ before: line, after: withoutTerm(line, term) }))
  const method = { kind: 'fixed', amount } as const
  const line: PriceLine = own
    ? { ...own, breaks: withMethodAt(own.breaks, quantity, method) }
    : {
        id,
        list,
        position: nextPosition(lines),
        scope: { include: [term], exclude: [] },
        schedule: null,
        rounding: null,
        ...forAnyQuantity(method),
      }
  return [...released, { before: own, after: line }]
}

/** The break a quantity reaches with another method; one from nothing on where it reaches none. */
function withMethodAt(
  breaks: readonly QuantityBreak[],
  quantity: Decimal,
  method: PriceMethod,
): readonly QuantityBreak[] {
  const reached = breaks.filter(({ from }) => compare(from, quantity) <= 0).length - 1
  if (reached < 0) return [{ from: ZERO, method }, ...breaks]
  return breaks.map((each, at) => (at === reached ? { ...each, method } : each))
}

/** What must change so that a list has no line for one item alone: nothing where there is none. */
export function releasePrice(lines: readonly PriceLine[], term: ItemTerm): readonly LineChange[] {
  return ownLines(lines, term).map((before) => ({ before, after: null }))
}

/**
 * Which of a buyer's own lists an edited price goes to: the one that decides already, else the first asked.
 *
 * Errors  `undefined` for a buyer without lists of their own.
 */
export function listToEdit<List extends { readonly id: string }>(
  own: readonly List[],
  deciding: string | null,
): List | undefined {
  return own.find(({ id }) => id === deciding) ?? own[0]
}

/** The lines that are for one item and for nothing else, in the order they are asked. */
function ownLines(lines: readonly PriceLine[], term: WhatTerm): readonly PriceLine[] {
  return lines
    .filter((line) => line.scope.include.length === 1 && line.scope.exclude.length === 0 && names(line, term))
    .sort(compareLines)
}

/** Whether a line names an item, alone or among others. */
function names({ scope }: PriceLine, term: WhatTerm): boolean {
  const key = whatTermKey(term)
  return scope.include.some((each) => whatTermKey(each) === key)
}

/** The line for what else it names; a line that names nothing else is gone. */
export function withoutTerm(line: PriceLine, term: WhatTerm): PriceLine | null {
  const key = whatTermKey(term)
  const include = line.scope.include.filter((each) => whatTermKey(each) !== key)
  return include.length === 0 ? null : { ...line, scope: { ...line.scope, include } }
}
