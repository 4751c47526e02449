import { matchWhat } from '../predicates/what'
import { factsOf } from './catalogue-index'
import type { CompiledList } from './compiled-list'
import type { PreparedStore } from './prepared-store'
import type { Situation } from './situation'

/** Whether a buyer is offered an item at all, and which lists leave it out if not. */
export type Offer =
  { readonly offered: true } | { readonly offered: false; readonly by: readonly CompiledList[] }

/**
 * Lists that offer only what they list leave out everything else of their scope; an item that one of several such
 * lists of a buyer does list is offered.
 */
export function findOffer(prepared: PreparedStore, situation: Situation, number: number): Offer {
  const by: CompiledList[] = []
  for (const { compiled } of situation.ladder.flat()) {
    if (!compiled.list.onlyListed || !compiled.layout.holds(number)) continue
    if (isListed(prepared, compiled, number)) return { offered: true }
    by.push(compiled)
  }
  return by.length === 0 ? { offered: true } : { offered: false, by }
}

/** Whether any list of a buyer leaves anything out. */
export function limitsOffer({ ladder }: Situation): boolean {
  return ladder.some((step) => step.some(({ compiled }) => compiled.list.onlyListed))
}

/** The lines are asked by their scope alone: a line of a season lists an item all year. */
function isListed({ store, index }: PreparedStore, { lines }: CompiledList, number: number): boolean {
  const facts = factsOf(store, index, number)
  return lines.some(({ scope }) => matchWhat(scope, facts).matches)
}
