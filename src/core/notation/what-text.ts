import { findByCode, findBySku } from '../catalogue/find-by-code'
import { parseDecimal } from '../decimal/decimal'
import type { UnnamedTerm, What, WhatTerm } from '../predicates/what'
import type { Store } from '../store/store'
import { findNamed, labelsOf, namesOf } from './named-text'
import type { ReadRule } from './read-rule'
import { readTerms, writeTerms } from './terms-text'

export function readWhat(store: Store, text: string): ReadRule<What> {
  return readTerms<WhatTerm>(
    text,
    (word) => readItem(store, word),
    () => [
      'everything',
      ...namesOf(store.category),
      ...namesOf(store['price-family']),
      ...namesOf(store.extra),
      ...[...store.product.values()].map(({ code }) => code),
      ...[...store.variant.values()].map(({ sku }) => sku),
    ],
  )
}

function readItem(store: Store, word: string): WhatTerm | null {
  const lower = word.toLowerCase()
  if (lower === 'everything') return { kind: 'everything' }
  if (lower === 'in stock' || lower === 'out of stock')
    return { kind: 'stock', state: lower === 'in stock' ? 'in-stock' : 'out-of-stock' }
  const range = /^base\s+(\d*\.?\d+)?\s*[-–]\s*(\d*\.?\d+)?$/i.exec(word)
  if (range)
    return {
      kind: 'price-range',
      from: range[1] === undefined ? null : parseDecimal(range[1]),
      to: range[2] === undefined ? null : parseDecimal(range[2]),
    }
  const attribute = /^([^=]+)=(.+)$/.exec(word)
  if (attribute?.[1] && attribute[2])
    return { kind: 'attribute', name: attribute[1].trim(), value: attribute[2].trim() }
  const product = findByCode(store.product, word)
  if (product) return { kind: 'product', product: product.id }
  const variant = findBySku(store.variant, word)
  if (variant) return { kind: 'variant', variant: variant.id }
  const category = findNamed(store.category, word)
  if (category) return { kind: 'category', category: category.id, descendants: true }
  const itself = /^only\s+(.+)$/i.exec(word)?.[1]
  const alone = itself === undefined ? null : findNamed(store.category, itself)
  if (alone) return { kind: 'category', category: alone.id, descendants: false }
  const family = findNamed(store['price-family'], word)
  if (family) return { kind: 'family', family: family.id }
  const extra = findNamed(store.extra, word)
  return extra ? { kind: 'extra', extra: extra.id } : null
}

export function writeWhat(store: Store, what: What): string {
  return writeTerms(
    what,
    (term) => itemLabels(store, term),
    (word) => readItem(store, word),
  )
}

/** A term that names no record, as it is typed. */
export function writeUnnamed(term: UnnamedTerm): string {
  switch (term.kind) {
    case 'everything':
      return 'everything'
    case 'price-range':
      return `base ${term.from ?? ''}–${term.to ?? ''}`
    case 'stock':
      return term.state === 'in-stock' ? 'in stock' : 'out of stock'
  }
}

function itemLabels(store: Store, term: WhatTerm): readonly string[] {
  switch (term.kind) {
    case 'everything':
      return [writeUnnamed(term)]
    case 'category': {
      const labels = labelsOf(store.category, term.category)
      return term.descendants ? labels : labels.map((label) => `only ${label}`)
    }
    case 'family':
      return labelsOf(store['price-family'], term.family)
    case 'attribute':
      return [`${term.name}=${term.value}`]
    case 'price-range':
    case 'stock':
      return [writeUnnamed(term)]
    case 'product':
      return [store.product.get(term.product)?.code ?? term.product]
    case 'variant':
      return [store.variant.get(term.variant)?.sku ?? term.variant]
    case 'extra':
      return labelsOf(store.extra, term.extra)
  }
}
