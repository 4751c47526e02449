import type { Decimal } from '../../decimal/decimal'
import { shownInBasis, storeBasis } from '../amounts/basis'
import type { BuyerContext } from '../context/buyer-context'
import type { PreparedStore } from '../context/prepared-store'
import type { PricingContext } from '../context/pricing-context'
import { emptyListPrice, findInList } from './find-in-list'
import { findPrice } from './find-price'
import { openPricingContext } from './open-pricing-context'

/** What somebody pays for an item from an instant on (epoch milliseconds), until the next period. */
export interface PricePeriod {
  readonly since: number
  /** In the basis of the store; `null` where there is none. */
  readonly price: Decimal | null
  readonly currency: string
  /** Id of the list that decides; `null` for the base price. */
  readonly list: string | null
  /** Ids of lists that hold then, have a price for the item and are beaten. */
  readonly beaten: readonly string[]
  /** Names, by id, of every list and adjustment that holds for the buyer then, whatever it is for. */
  readonly holding: ReadonlyMap<string, string>
}

/** Dates within one state of the store. */
const MOST_EDGES = 400

/** The prices of one item in one state of the store: one until the next instant at which anything starts or ends for the buyer. */
export function pricePeriods(
  prepared: PreparedStore,
  asked: { readonly from: BuyerContext; readonly variant: string; readonly quantity: number },
  { since, until }: { readonly since: number; readonly until: number },
): readonly PricePeriod[] {
  const { from, variant, quantity } = asked
  const number = prepared.index.numberOf.get(variant)
  const periods: PricePeriod[] = []
  for (let at = since, edges = 0; at < until && edges < MOST_EDGES; edges += 1) {
    const opened = openPricingContext(prepared, { ...from, at })
    if (number === undefined || !opened.ok) {
      periods.push({ since: at, price: null, currency: '', list: null, beaten: [], holding: new Map() })
      break
    }
    const { value: context } = opened
    const quantities = { own: quantity, counted: null }
    const found = findPrice(prepared, context, number, quantities)
    const list = found.entry?.compiled.list.id ?? null
    periods.push({
      since: at,
      price: shownInBasis(prepared, context.currencyView, number, found, storeBasis(prepared)),
      currency: context.currency,
      list,
      beaten: listsWithPrice(prepared, context, number, quantity).filter((id) => id !== list),
      holding: new Map([
        ...context.ladder.flat().map(({ compiled }) => [compiled.list.id, compiled.list.name] as const),
        ...[...context.currencyView.adjustments, ...context.shown].map(({ id, name }) => [id, name] as const),
      ]),
    })
    at = Math.max(at + 1, context.validity.until)
  }
  return periods
}

function listsWithPrice(
  prepared: PreparedStore,
  { ladder }: PricingContext,
  number: number,
  quantity: number,
): readonly string[] {
  const scratch = emptyListPrice()
  return ladder
    .flat()
    .filter(({ compiled, currencyView }) =>
      findInList(prepared, currencyView, compiled, number, { own: quantity, counted: null }, scratch),
    )
    .map(({ compiled }) => compiled.list.id)
}
