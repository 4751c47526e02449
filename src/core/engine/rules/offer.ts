import type { CompiledList } from '../lists/compiled-list'
import type { Ladder, PricingContext } from '../context/pricing-context'

/** Whether a buyer is offered an item at all, and which lists leave it out if not. */
export type Offer =
  { readonly offered: true } | { readonly offered: false; readonly by: readonly CompiledList[] }

/** The lists of a ladder that offer only what they list. */
export function limitingLists(ladder: Ladder): readonly CompiledList[] {
  return ladder.flat().flatMap(({ compiled }) => (compiled.list.onlyListed ? [compiled] : []))
}

/**
 * Lists that offer only what they list leave out everything else of their scope; an item that one of several such
 * lists of a buyer does list is offered.
 */
export function findOffer({ exclusiveLists }: PricingContext, number: number): Offer {
  const by: CompiledList[] = []
  for (const compiled of exclusiveLists) {
    if (!compiled.layout.holds(number)) continue
    if (isListed(compiled, number)) return { offered: true }
    by.push(compiled)
  }
  return by.length === 0 ? { offered: true } : { offered: false, by }
}

/** A line of a season lists an item all year; the default line lists nothing. */
function isListed({ layout, lines }: CompiledList, number: number): boolean {
  return layout.candidates(number).some(({ line }) => line < lines.length)
}
