import { quantityUnits, type CompiledLine } from '../engine/lists/compiled-line'
import type { CompiledList } from '../engine/lists/compiled-list'
import type { Quantities } from '../engine/price/find-in-list'
import type { PreparedStore } from '../engine/context/prepared-store'
import { factsOf } from '../engine/items/catalogue-index'
import { type ItemFacts, matchWhat } from '../predicates/what'
import type { CartLineWanted } from './cart'

/** One line of a cart by its number in the catalogue. */
export interface NumberedLine {
  readonly number: number
  readonly wanted: CartLineWanted
  /** In thousandths. */
  readonly quantity: number
  readonly product: string
  readonly facts: ItemFacts
}

export function numberLines(
  { store, index }: PreparedStore,
  lines: readonly CartLineWanted[],
): readonly NumberedLine[] {
  return lines.map((wanted) => {
    const number = index.numberOf.get(wanted.variant) as number
    const facts = factsOf(store, index, number)
    return { number, wanted, quantity: quantityUnits(wanted.quantity), product: facts.product, facts }
  })
}

/**
 * How breaks count what is bought together: the same variant on several lines is one quantity, and what a line of a
 * list counts together is summed once for the whole cart.
 */
export function cartQuantities(lines: readonly NumberedLine[]): (line: NumberedLine) => Quantities {
  const sumBy = <Key>(keyOf: (line: NumberedLine) => Key) => {
    const sums = new Map<Key, number>()
    for (const line of lines) sums.set(keyOf(line), (sums.get(keyOf(line)) ?? 0) + line.quantity)
    return sums
  }
  const ofVariant = sumBy(({ number }) => number)
  const ofProduct = sumBy(({ product }) => product)
  const ofLine = new Map<CompiledLine, number>()
  const together = (compiled: CompiledList, line: CompiledLine): number => {
    let sum = ofLine.get(line)
    if (sum === undefined) {
      sum = 0
      for (const { number, facts, quantity } of lines) {
        if (!compiled.layout.holds(number)) continue
        if (line.line === null || matchWhat(line.line.scope, facts).matches) sum += quantity
      }
      ofLine.set(line, sum)
    }
    return sum
  }
  return ({ number, product }) => {
    const own = ofVariant.get(number) as number
    return {
      own,
      counted: (compiled, line, item) => {
        if (line.counting === 'variant' || item !== number) return own
        return line.counting === 'product' ? (ofProduct.get(product) as number) : together(compiled, line)
      },
    }
  }
}
