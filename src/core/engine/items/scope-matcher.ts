import { isVolatile, type ItemFacts, matchWhat, type What, type WhatTerm } from '../../predicates/what'
import { sharedMemory } from '../../maps/shared-memory'
import type { Store } from '../../store/store'
import { type CatalogueIndex, factsOf } from './catalogue-index'

/** Whether an item is held, by its number. */
type Matcher = (number: number) => boolean

/**
 * Says of each item, by its number, whether a scope holds it. Variants that are filed alike are asked about once, so
 * that a whole catalogue is gone through quickly; each answer is that of `matchWhat`.
 *
 * Errors  the answer throws `RangeError` for a number that is none.
 */
export function scopeMatcher(
  { store, index }: { readonly store: Store; readonly index: CatalogueIndex },
  scope: What,
): Matcher {
  const takesIn = termsMatcher(store, index, scope.include)
  const leavesOut = termsMatcher(store, index, scope.exclude)
  return (number) => takesIn(number) && !leavesOut(number)
}

/** Kept as long as the store and the scope. */
const MATCHERS = sharedMemory('scope-matchers', () => new WeakMap<object, WeakMap<What, Matcher>>())

/** `scopeMatcher` of a scope that is asked about again and again, such as a rule's: made once. */
export function keptScopeMatcher(
  prepared: { readonly store: Store; readonly index: CatalogueIndex },
  scope: What,
): Matcher {
  let known = MATCHERS.get(prepared)
  if (!known) MATCHERS.set(prepared, (known = new WeakMap()))
  let matcher = known.get(scope)
  if (!matcher) known.set(scope, (matcher = scopeMatcher(prepared, scope)))
  return matcher
}

/** Whether a scope says the same of all items of one signature: it names none, and depends on neither price nor stock. */
export function isFiledOnly({ include, exclude }: What): boolean {
  return [...include, ...exclude].every(
    (term) =>
      !isVolatile(term) && term.kind !== 'variant' && term.kind !== 'product' && term.kind !== 'extra',
  )
}

/** Whether any of some terms holds an item. */
function termsMatcher(store: Store, index: CatalogueIndex, terms: readonly WhatTerm[]): Matcher {
  const named = new Set(terms.flatMap((term) => namedItems(index, term)))
  const changing = asScope(terms.filter(isVolatile))
  const filed = asScope(terms.filter((term) => !isVolatile(term)))
  const bySignature = new Int8Array(index.variantSignatures)
  return (number) => {
    if (named.has(number)) return true
    if (number >= index.variantCount) return false
    const signature = index.signatureOf[number] as number
    let answer = bySignature[signature]
    if (answer === UNASKED) {
      answer = matchWhat(filed, index.signatureFacts[signature] as ItemFacts).matches ? HELD : NOT_HELD
      bySignature[signature] = answer
    }
    if (answer === HELD) return true
    return changing.include.length > 0 && matchWhat(changing, factsOf(store, index, number)).matches
  }
}

const UNASKED = 0
const HELD = 1
const NOT_HELD = 2

function asScope(include: readonly WhatTerm[]): What {
  return { include, exclude: [] }
}

/** The numbers of what a term names itself: a variant, an extra, or the variants of a product. */
function namedItems(index: CatalogueIndex, term: WhatTerm): readonly number[] {
  if (term.kind === 'product') return index.numbersOfProduct.get(term.product) ?? []
  if (term.kind !== 'variant' && term.kind !== 'extra') return []
  const number = index.numberOf.get(term.kind === 'variant' ? term.variant : term.extra)
  return number === undefined ? [] : [number]
}
