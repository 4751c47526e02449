import 'server-only'

import { variantName } from '@/core/catalogue/product'
import { findLimits, isSingle, type LimitSource } from '@/core/engine/find-limits'
import { isForEverything, LIMIT_FIELDS, type LimitField, type LimitRule } from '@/core/limits/limit'
import type { Store } from '@/core/store/store'
import { shownProducts } from '@/server/engine/catalogue-order'
import type { Outlook } from '@/server/engine/look-from'
import { limitPhrase } from '@/ui/format/terms-phrases'

/** One field of a limit, and the level that set it. */
interface LimitCell {
  readonly text: string
  readonly by: string
  readonly href: string | null
}

interface LimitedItem {
  readonly sku: string
  readonly product: string
  readonly name: string
  readonly cells: readonly (LimitCell | null)[]
  /** Rules that count it together with others, or over days. */
  readonly together: readonly { readonly name: string; readonly href: string; readonly text: string }[]
}

export interface LimitsView {
  readonly buyer: string
  readonly find: string
  /** Rules that count every order as a whole. */
  readonly orders: LimitedItem['together']
  readonly items: readonly LimitedItem[]
  /** How many more there are. */
  readonly more: number
}

const MOST_SHOWN = 150

/** The limits in force for whoever is looked as: of what was searched for, or of everything that has any. */
export function loadLimits({ prepared, situation, buyerName }: Outlook, find: string): LimitsView {
  const { store, index } = prepared
  const items = shownProducts(store, { category: null, text: find }).flatMap(({ product, variants }) =>
    variants.flatMap((variant): readonly LimitedItem[] => {
      const found = findLimits(prepared, situation, index.numberOf.get(variant.id) as number)
      const together = found.together.filter((rule) => !isForEverything(rule))
      const isLimited = Object.keys(found.setBy).length > 0 || together.length > 0
      if (find === '' && !isLimited) return []
      return [
        {
          sku: variant.sku,
          product: product.code,
          name: [product.name, variantName(product, variant)].filter(Boolean).join(', '),
          cells: LIMIT_FIELDS.map((field) =>
            toCell(store, field, found.limits[field], found.setBy[field], product.code),
          ),
          together: together.map(toRule),
        },
      ]
    }),
  )
  return {
    buyer: buyerName,
    find,
    orders: situation.terms.limits
      .map(({ rule }) => rule)
      .filter((rule) => !isSingle(rule) && isForEverything(rule))
      .map(toRule),
    items: items.slice(0, MOST_SHOWN),
    more: Math.max(0, items.length - MOST_SHOWN),
  }
}

function toRule(rule: LimitRule): LimitedItem['together'][number] {
  return { name: rule.name, href: `/limits/${rule.code}`, text: limitPhrase(rule) }
}

function toCell(
  store: Store,
  field: LimitField,
  value: string | readonly { readonly quantity: string }[] | null,
  source: LimitSource | undefined,
  product: string,
): LimitCell | null {
  if (value === null || !source) return null
  const text = typeof value === 'string' ? value : value.map(({ quantity }) => quantity).join(', ')
  if (source.kind !== 'rule') return { text, by: `its ${source.kind}`, href: `/products/${product}` }
  const rule = store.limit.get(source.rule)
  return { text, by: rule?.name ?? field, href: `/limits/${rule?.code ?? ''}` }
}
