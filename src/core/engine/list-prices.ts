import { findRow } from './compiled-list'
import type { PreparedStore } from './prepared-store'
import { type PriceStep, runPriceStep } from './price-step'

/** What a single list gives for every variant, whoever it is for, by the numbers of the catalogue index. */
export interface ListPrices {
  /** In smallest units; NaN where the list has no price. */
  readonly prices: Float64Array
  /**
   * Which of the list's lines gives it, in the order of `lines`: −1 where none does. The default line
   * counts as one behind the last.
   */
  readonly lineOf: Int32Array
  /** Ids of the list's lines in the order they are asked. */
  readonly lines: readonly string[]
}

/** Errors  `null` when there is no such list. */
export function listPrices(prepared: PreparedStore, listId: string): ListPrices | null {
  const compiled = prepared.lists.get(listId)
  if (!compiled) return null
  const { index, base } = prepared
  const prices = new Float64Array(base.length).fill(Number.NaN)
  const lineOf = new Int32Array(base.length).fill(-1)
  for (let number = 0; number < base.length; number += 1) {
    const { rows, key } = findRow(compiled, index, number)
    for (let at = rows.starts[key] as number; at < (rows.starts[key + 1] as number); at += 1) {
      const line = rows.lines[at] as number
      const units = runPriceStep(compiled.steps[line] as PriceStep, base[number] as number)
      if (units !== units) continue
      prices[number] = units
      lineOf[number] = line
      break
    }
  }
  return { prices, lineOf, lines: compiled.lines.map(({ id }) => id) }
}
