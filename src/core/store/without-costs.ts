import type { Extra } from '../catalogue/extra'
import { NO_AMOUNTS, type Product, type Variant } from '../catalogue/product'
import { MappedValues } from '../maps/mapped-values'
import { sharedMemory } from '../maps/shared-memory'
import type { Change, Store } from './store'

/** A store as somebody sees it who must not know what anything costs: no record of it holds a cost. */
export function storeWithoutCosts(store: Store): Store {
  const { products, variants, extras } = MADE
  return {
    ...store,
    product: new MappedValues<Product>(store.product, amountsWithoutCosts, products),
    variant: new MappedValues<Variant>(store.variant, amountsWithoutCosts, variants),
    extra: new MappedValues<Extra>(store.extra, (extra) => ({ ...extra, cost: null }), extras),
  }
}

const MADE = sharedMemory('without-costs', () => ({
  products: new WeakMap<Product, Product>(),
  variants: new WeakMap<Variant, Variant>(),
  extras: new WeakMap<Extra, Extra>(),
}))

function amountsWithoutCosts<Item extends Product | Variant>(item: Item): Item {
  return {
    ...item,
    cost: null,
    ownAmounts: Object.fromEntries(
      Object.entries(item.ownAmounts).map(([currency, amounts]) => [currency, { ...amounts, cost: null }]),
    ),
  }
}

/** A change as somebody sees it who must not know costs; `null` where nothing of it is left. */
export function changeWithoutCosts(change: Change): Change | null {
  const { kind, before, after } = change
  if (kind !== 'product' && kind !== 'variant' && kind !== 'extra') return change
  const hide = (record: object | null) =>
    record && (kind === 'extra' ? { ...record, cost: null } : amountsWithoutCosts(record as Product))
  const hidden = { ...change, before: hide(before), after: hide(after) } as Change
  return hidden.before && hidden.after && JSON.stringify(hidden.before) === JSON.stringify(hidden.after)
    ? null
    : hidden
}

/**
 * A record as it was submitted by somebody who was shown no costs, with those it has; a new one has none.
 *
 * Errors  `null` where it was to cost something else.
 */
export function withCostsOf<Item extends { readonly cost?: unknown }>(
  submitted: Item,
  before: Product | Variant | Extra | null,
): Item | null {
  const own = (amounts: unknown): Readonly<Record<string, { readonly cost?: unknown }>> =>
    ((amounts as { readonly ownAmounts?: object } | null)?.ownAmounts ?? {}) as never
  const known = own(before)
  const given = own(submitted)
  const isChanged = (value: unknown, was: unknown) => value !== undefined && value !== null && value !== was
  if (isChanged(submitted.cost, before?.cost ?? null)) return null
  if (Object.entries(given).some(([currency, { cost }]) => isChanged(cost, known[currency]?.cost ?? null)))
    return null
  if (!('ownAmounts' in submitted)) return { ...submitted, cost: before?.cost ?? null }
  const currencies = [...new Set([...Object.keys(known), ...Object.keys(given)])]
  const ownAmounts = Object.fromEntries(
    currencies.flatMap((currency) => {
      const cost = known[currency]?.cost ?? null
      const rest = given[currency] ?? (cost === null ? null : NO_AMOUNTS)
      return rest ? [[currency, { ...rest, cost }]] : []
    }),
  )
  return { ...submitted, cost: before?.cost ?? null, ownAmounts }
}
