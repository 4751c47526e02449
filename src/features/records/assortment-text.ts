import 'server-only'

import type { Assortment, AssortmentTerm } from '@/core/access/assortment'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { findNearest } from '@/core/issue/issue'
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
  const words = (Object.keys(STARTS) as (keyof typeof STARTS)[]).find((each) =>
    typed.toLowerCase().startsWith(each),
  )
  if (!words)
    return {
      ok: false,
      problem:
        'Begin with “nothing but” and the branches it holds, or “everything but” and what it leaves out.',
    }
  const start = STARTS[words]
  const include: AssortmentTerm[] = []
  const exclude: AssortmentTerm[] = []
  for (const part of partsOf(typed.slice(words.length), ',')) {
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
    const isTaken = start === 'nothing' ? turns?.[1]?.toLowerCase() !== 'not' : turns !== null
    ;(isTaken ? include : exclude).push(term)
  }
  return { ok: true, value: { start, include, exclude } }
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
