import 'server-only'

import type { BuyerReference } from '@/core/buyers/buyer'
import { type BuyerCode, buyerName, findBuyer } from '@/core/buyers/buyer-code'
import type { Category } from '@/core/catalogue/category'
import { type Product, resolveValue, type Variant, variantName } from '@/core/catalogue/product'
import { findLadder } from '@/core/engine/prepare'
import type { LadderList, PreparedStore } from '@/core/engine/prepared-store'
import { priceColumn } from '@/core/engine/price-column'
import { toPrice } from '@/core/engine/price-step'
import { isOwnRung } from '@/core/price/ladder'
import type { PriceMethod } from '@/core/price/price-list'
import { getSettings, type Store } from '@/core/store/store'
import { shownProducts } from '@/server/engine/catalogue-order'
import type { Outlook } from '@/server/engine/look-from'
import {
  BLOCK_SIZE,
  type BoardColumn,
  type BoardProduct,
  type BoardVariant,
  type BoardView,
} from './board-view'
import type { BoardFilter } from './board-url'

/** The board as somebody looks at it: columns, sizes and the first rows. */
export function loadBoard(outlook: Outlook, filter: BoardFilter): BoardView {
  const { prepared } = outlook
  const { store } = prepared
  const products = shownProducts(store, filter)
  const columns = boardColumns(prepared, outlook.as)
  return {
    columns,
    listNames: Object.fromEntries([...store['price-list'].values()].map(({ id, name }) => [id, name])),
    counts: products.map(({ variants }) => variants.length),
    variantCount: products.reduce((sum, { variants }) => sum + variants.length, 0),
    currency: getSettings(store).currency,
    digits: prepared.digits,
    live: outlook.live,
    asOf: outlook.steppe.lastChangeSet,
    firstBlock: products.slice(0, BLOCK_SIZE).map((each) => toBoardProduct(prepared, columns, each)),
    categories: flattenTree(store, null, 0),
  }
}

/** Some of the board's products, in its order. */
export function loadBoardBlock(
  outlook: Outlook,
  filter: BoardFilter,
  from: number,
  count: number,
): readonly BoardProduct[] {
  const { prepared } = outlook
  const columns = boardColumns(prepared, outlook.as)
  return shownProducts(prepared.store, filter)
    .slice(from, from + count)
    .map((each) => toBoardProduct(prepared, columns, each))
}

/** Guests, every group, and the buyer looked as where that is neither. */
export function boardColumns(prepared: PreparedStore, as: BuyerCode): readonly BoardColumn[] {
  const groups = [...prepared.store.group.values()].sort((left, right) => left.position - right.position)
  const codes: BuyerCode[] = ['guest', ...groups.map(({ code }) => `group:${code}` as const)]
  // Whoever is looked as stands first, where nothing scrolls away.
  if (!codes.includes(as)) codes.unshift(as)
  return codes.map((code) => toColumn(prepared, code))
}

/** One variant's row. */
export function toBoardVariant(
  prepared: PreparedStore,
  columns: readonly BoardColumn[],
  product: Product,
  variant: Variant,
): BoardVariant {
  const base = resolveValue(product, variant, 'basePrice')
  const number = prepared.index.numberOf.get(variant.id) as number
  return {
    id: variant.id,
    sku: variant.sku,
    name: variantName(product, variant) || product.name,
    base: base.value,
    ownBase: base.from === 'variant',
    cost: resolveValue(product, variant, 'cost').value,
    cells: columns.map(({ as }) => {
      const column = priceColumn(prepared, buyerOf(prepared, as))
      const units = column?.prices[number] ?? Number.NaN
      return {
        amount: toPrice(units, prepared.digits),
        list: column?.lists[column.sources[number] ?? -1] ?? null,
      }
    }),
  }
}

function toBoardProduct(
  prepared: PreparedStore,
  columns: readonly BoardColumn[],
  { product, variants }: { product: Product; variants: readonly Variant[] },
): BoardProduct {
  return {
    id: product.id,
    code: product.code,
    name: product.name,
    base: product.basePrice,
    variants: variants.map((variant) => toBoardVariant(prepared, columns, product, variant)),
  }
}

export function buyerOf({ store }: PreparedStore, as: BuyerCode): BuyerReference {
  return findBuyer(store.group, store.account, as) ?? { kind: 'guest' }
}

function toColumn(prepared: PreparedStore, as: BuyerCode): BoardColumn {
  const buyer = buyerOf(prepared, as)
  const { group, account } = prepared.store
  const own = (findLadder(prepared, buyer) ?? []).flat().filter(({ rung }) => isOwnRung(rung))
  return {
    as,
    title: buyerName(group, account, buyer),
    subtitle: as === 'guest' ? 'not signed in' : subtitleOf(own[0]),
    ownLists: own.map(({ compiled: { list } }) => ({ id: list.id, name: list.name })),
  }
}

function subtitleOf(first: LadderList | undefined): string {
  if (!first) return 'no own list'
  const { list } = first.compiled
  const otherwise = list.defaultLine && shortMethod(list.defaultLine)
  return otherwise ? `${list.purpose} · ${otherwise}` : list.name
}

function shortMethod(method: PriceMethod): string | null {
  return method.kind === 'percent' ? `${method.percent.replace('-', '−')} %` : null
}

function flattenTree(store: Store, parent: string | null, depth: number): BoardView['categories'] {
  return [...store.category.values()]
    .filter((category) => category.parent === parent)
    .sort((left: Category, right: Category) => left.position - right.position)
    .flatMap(({ id, code, name }) => [{ code, name, depth }, ...flattenTree(store, id, depth + 1)])
}
