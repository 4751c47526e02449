import 'server-only'

import type { Assortment, AssortmentTerm } from '@/core/access/assortment'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { findNearest } from '@/core/issue/issue'
import type { What, WhatTerm } from '@/core/predicates/what'
import type { Store } from '@/core/store/store'
import { partsOf } from './field-rule'
import { findNamed, writeNamed } from '@/core/notation/named-text'
import type { ReadRule } from '@/core/notation/read-rule'

const STARTS = { 'everything but': 'everything', 'nothing but': 'nothing' } as const

/** `nothing but Frames and foundation, Smokers, not SM-CL`; empty is everything. */
export function writeAssortment(store: Store, assortment: Assortment | null): string {
  if (!assortment) return ''
  const word = (term: AssortmentTerm) => labelOf(store, term)
  const taken = assortment.include.map(word)
  const left = assortment.exclude.map(word)
  return assortment.start === 'nothing'
    ? `nothing but ${[...taken, ...left.map((each) => `not ${each}`)].join(', ')}`
    : `everything but ${[...left, ...taken.map((each) => `also ${each}`)].join(', ')}`
}

export function readAssortment(store: Store, text: string): ReadRule<Assortment | null> {
  const typed = text.trim()
  if (typed === '' || /^everything$/i.test(typed)) return { ok: true, value: null }
  // As a scope is written too: “everything, not Livestock”, “Frames, Jars”.
  const words = (Object.keys(STARTS) as (keyof typeof STARTS)[]).find((each) =>
    typed.toLowerCase().startsWith(each),
  )
  const isAll = /^everything\s*,\s*/i.exec(typed)
  const start = words ? STARTS[words] : isAll ? 'everything' : 'nothing'
  const rest = words ? typed.slice(words.length) : isAll ? typed.slice(isAll[0].length) : typed
  const include: AssortmentTerm[] = []
  const exclude: AssortmentTerm[] = []
  for (const part of partsOf(rest, ',')) {
    const turns = /^(not|also)\s+/i.exec(part)
    const word = turns ? part.slice(turns[0].length) : part
    const term = findTerm(store, word)
    if (!term) {
      const known = [...store.category.values()].flatMap(({ name, code }) => [name, code])
      const nearest = findNearest(word, [...known, ...[...store.product.values()].map(({ code }) => code)])
      return {
        ok: false,
        problem: `There is no “${word}” here.${nearest ? ` Did you mean ${nearest}?` : ''}`,
      }
    }
    const turn = turns?.[1]?.toLowerCase()
    const isTaken = start === 'nothing' ? turn !== 'not' : turn === 'also'
    ;(isTaken ? include : exclude).push(term)
  }
  return { ok: true, value: { start, include, exclude } }
}

/** What an assortment holds, as a scope; `null` where a scope cannot say it, because something inside what is left out is in. */
export function assortmentAsScope(assortment: Assortment | null): What | null {
  if (!assortment) return { include: [{ kind: 'everything' }], exclude: [] }
  const terms = (each: readonly AssortmentTerm[]): readonly WhatTerm[] =>
    each.map((term) => (term.kind === 'category' ? { ...term, descendants: true } : term))
  const [include, exclude] = [terms(assortment.include), terms(assortment.exclude)]
  if (assortment.start === 'nothing') return include.length > 0 ? { include, exclude } : null
  return include.length > 0 ? null : { include: [{ kind: 'everything' }], exclude }
}

function findTerm(store: Store, word: string): AssortmentTerm | null {
  const category = findNamed(store.category, word)
  if (category) return { kind: 'category', category: category.id }
  const product = findByCode(store.product, word)
  if (product) return { kind: 'product', product: product.id }
  const variant = findBySku(store.variant, word)
  return variant ? { kind: 'variant', variant: variant.id } : null
}

function labelOf(store: Store, term: AssortmentTerm): string {
  switch (term.kind) {
    case 'category':
      return writeNamed(store.category, term.category)
    case 'product':
      return store.product.get(term.product)?.code ?? term.product
    case 'variant':
      return store.variant.get(term.variant)?.sku ?? term.variant
  }
}
