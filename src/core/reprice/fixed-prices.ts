import { isSold } from '../catalogue/is-sold'
import type { PreparedStore } from '../engine/context/prepared-store'
import { scopeMatcher } from '../engine/items/scope-matcher'
import type { PriceLine } from '../price/lines/price-list'
import { eachInSteps, type Steps } from '../steps/steps'
import type { Amount } from './reprice-target'

/**
 * The fixed prices of a list for items that are meant, one for each quantity break that has one; computed prices follow what they
 * start from. A line that is for others too is told apart: changing it would change their price.
 */
export function* fixedPrices(
  prepared: PreparedStore,
  list: string,
  isIn: (number: number) => boolean,
): Steps<readonly Amount[]> {
  const lines = (prepared.lists.get(list)?.lines ?? []).filter(({ breaks }) =>
    breaks.some(({ method }) => method.kind === 'fixed'),
  )
  const amounts: Amount[] = []
  for (const line of lines) {
    yield
    const numbers = yield* soldIn(prepared, line)
    const meant = numbers.filter(isIn)
    if (meant.length === 0) continue
    for (const [at, { method }] of line.breaks.entries())
      if (method.kind === 'fixed')
        amounts.push({
          record: 'price-line',
          id: line.id,
          at,
          now: method.amount,
          numbers: meant,
          reachesFurther: meant.length < numbers.length,
        })
  }
  return amounts
}

/** Numbers of the items a line is for that are sold. */
function* soldIn(prepared: PreparedStore, { scope }: PriceLine): Steps<readonly number[]> {
  const { store, index } = prepared
  const isThere = (number: number) => isSold(store, index.items[number] as string)
  const [only] = scope.include
  if (scope.include.length === 1 && scope.exclude.length === 0) {
    if (only?.kind === 'variant') {
      const number = index.numberOf.get(only.variant)
      return number !== undefined && isThere(number) ? [number] : []
    }
    if (only?.kind === 'product') return (index.numbersOfProduct.get(only.product) ?? []).filter(isThere)
  }
  const holds = scopeMatcher(prepared, scope)
  const found: number[] = []
  yield* eachInSteps(Array(index.variantCount).keys(), (number) => {
    if (holds(number) && isThere(number)) found.push(number)
  })
  return found
}
