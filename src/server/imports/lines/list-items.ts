import { findNearest } from '@/core/issue/issue'
import { type WhatTerm, whatTermKey } from '@/core/predicates/what'
import { withoutTerm } from '@/core/price/lines/fix-price'
import { compareLines, type PriceLine, type PriceList } from '@/core/price/lines/price-list'
import { CategoryBook } from '../products/category-book'
import type { Cells } from '../import-field'
import { ProductNames } from '../products/product-names'
import type { ReadingInput, RecordInput } from '../reading'
import type { RowBook } from '../row-outcome'

/** How many unknown names a file is helped with: looking for the nearest of 100,000 takes its time. */
const NEAREST_FOUND = 50

/** Finds the items and lists that rows name. */
export class ItemFinder {
  private readonly names: ProductNames
  private readonly categories: CategoryBook
  private readonly lists: ReadonlyMap<string, PriceList>
  private helped = 0

  constructor({ store, newId }: ReadingInput) {
    this.names = new ProductNames(store)
    this.categories = new CategoryBook(store.category, newId)
    this.lists = new Map(
      [...store['price-list'].values()].flatMap((list) => [
        [list.name.toLowerCase(), list],
        [list.code.toLowerCase(), list],
      ]),
    )
  }

  list(text: string): PriceList | null {
    return this.lists.get(text.toLowerCase()) ?? null
  }

  nearestList(text: string): string | null {
    return findNearest(
      text,
      [...this.lists.values()].map(({ name }) => name),
    )
  }

  /** What a row is for: the most narrow thing it names. Refuses the row and answers `null` without one. */
  item(book: RowBook, number: number, row: Cells): WhatTerm | null {
    const sku = row.get('sku')
    if (sku !== undefined) {
      const variant = this.names.variant(sku)
      if (variant) return { kind: 'variant', variant: variant.id }
      return this.unknown(book, number, 'SKU', sku, () => this.names.nearestSku(sku))
    }
    const code = row.get('product')
    if (code !== undefined) {
      const product = this.names.product(code)
      if (product) return { kind: 'product', product: product.id }
      return this.unknown(book, number, 'Product code', code, () => this.names.nearestProduct(code))
    }
    const family = row.get('family')
    if (family !== undefined) {
      const found = this.names.family(family)
      if (found) return { kind: 'family', family: found.id }
      return this.unknown(book, number, 'Price family', family, () => this.names.nearestFamily(family))
    }
    const category = row.get('category')
    if (category !== undefined) return this.category(book, number, category)
    book.refuse(number, { code: 'no-key', fields: ['SKU', 'Product code', 'Category', 'Price family'] })
    return null
  }

  private category(book: RowBook, number: number, text: string): WhatTerm | null {
    const found = this.categories.find(text)
    if (!found.ok) {
      book.refuse(number, { code: 'not-among', field: 'Category', value: text, allowed: found.among })
      return null
    }
    if (found.id !== null) return { kind: 'category', category: found.id, descendants: true }
    return this.unknown(book, number, 'Category', text, () => this.categories.nearest(text))
  }

  private unknown(
    book: RowBook,
    number: number,
    field: string,
    value: string,
    nearest: () => string | null,
  ): null {
    this.helped += 1
    book.refuse(number, {
      code: 'unknown',
      field,
      value,
      nearest: this.helped <= NEAREST_FOUND ? nearest() : null,
    })
    return null
  }
}

/** The undated lines of all lists by what they name: a file says nothing of when. */
export class LineShelf {
  private readonly byItem = new Map<string, PriceLine[]>()
  private readonly positions = new Map<string, number>()
  private readonly lettingGo = new Map<string, PriceLine | null>()

  constructor({ 'price-line': lines }: ReadingInput['store']) {
    for (const line of lines.values()) {
      this.positions.set(line.list, Math.max(line.position, this.positions.get(line.list) ?? -1))
      if (line.schedule !== null) continue
      for (const term of line.scope.include) {
        const key = keyOf(line.list, term)
        const known = this.byItem.get(key)
        if (known) known.push(line)
        else this.byItem.set(key, [line])
      }
    }
  }

  /** The line of a list that is for one item and nothing else. */
  own(list: string, term: WhatTerm): PriceLine | null {
    return this.alone(list, term)[0] ?? null
  }

  /** Takes the item out of lines that name it among others, or a second time: they would win by standing first. */
  letGo(list: string, term: WhatTerm): void {
    const own = this.own(list, term)
    for (const line of this.byItem.get(keyOf(list, term)) ?? []) {
      if (line === own) continue
      const now = this.lettingGo.has(line.id) ? this.lettingGo.get(line.id) : line
      if (now) this.lettingGo.set(line.id, withoutTerm(now, term))
    }
  }

  /** Lines that no longer name an item. */
  get changed(): readonly RecordInput[] {
    return [...this.lettingGo].map(([id, after]) => ({ kind: 'price-line', id, after }))
  }

  nextPosition(list: string): number {
    const next = (this.positions.get(list) ?? -1) + 1
    this.positions.set(list, next)
    return next
  }

  private alone(list: string, term: WhatTerm): readonly PriceLine[] {
    return (this.byItem.get(keyOf(list, term)) ?? [])
      .filter(({ scope }) => scope.include.length === 1 && scope.exclude.length === 0)
      .sort(compareLines)
  }
}

function keyOf(list: string, term: WhatTerm): string {
  return `${list}\n${whatTermKey(term)}`
}
