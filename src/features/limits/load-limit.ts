import 'server-only'

import { type Product, type Variant, itemName } from '@/core/catalogue/product'
import { factsOf } from '@/core/engine/items/catalogue-index'
import { scopeMatcher } from '@/core/engine/items/scope-matcher'
import { findLimits, type FoundLimits } from '@/core/engine/rules/find-limits'
import { LIMIT_FIELDS, type LimitField, type LimitRule, type QuantityLimits } from '@/core/limits/limit'
import { brokenAlone, nearestAlone } from '@/core/cart/alone-in-cart'
import { nearestQuantities } from '@/core/limits/nearest-quantities'
import { decimal, type Decimal } from '@/core/decimal/decimal'
import { matchWhat } from '@/core/predicates/what'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { soldInScope } from '@/server/engine/sold-variants'
import type { Mention } from '@/sheet/effect/mentions'
import type { LoadedSheet } from '@/sheet/record/load-sheet'
import { limitPhrase } from '@/ui/format/terms-phrases'
import { recordHref } from '@/ui/frame/record-href'

/** What a level says of one field of the limits, and whether it is what counts. */
interface LevelRow {
  readonly field: string
  readonly by: string
  readonly href: string | null
  readonly about: string
  readonly value: string
  readonly counts: boolean
}

export interface LimitView {
  readonly item: { readonly sku: string; readonly name: string } | null
  readonly buyer: string
  readonly levels: readonly LevelRow[]
  /** Small quantities and whether each passes with nothing else in the cart, and nothing bought before. */
  readonly tries: readonly { readonly quantity: number; readonly passes: boolean }[]
  readonly asked: {
    readonly quantity: Decimal
    readonly passes: boolean
    readonly below: string | null
    readonly above: string | null
  }
  readonly products: readonly { readonly name: string; readonly href: string; readonly variants: number }[]
  readonly reached: number
  readonly others: readonly Mention[]
  /** Items that no quantity passes for, because of what others say. */
  readonly stuck: readonly string[]
}

const FIELD_WORDS: Readonly<Record<LimitField, string>> = {
  minimum: 'At least',
  maximum: 'At most',
  multiple: 'In steps of',
  first: 'First quantity',
  values: 'Only these',
}

/** Small quantities that are tried one by one, for a line of dots. */
export const MOST_TRIED = 48

/** What a limit comes to for one of its items, level by level, and what it meets. */
export async function loadLimit({ id, before, after }: LoadedSheet): Promise<LimitView | null> {
  const { prepared, buyerContext, pricingContext, buyerName, quantity } = after ?? before
  const { store } = prepared
  const rule = store.limit.get(id)
  if (!rule) return null
  const reached = await soldInScope(prepared, rule.scope)
  const [first] = reached
  const found = first && findLimits(prepared, pricingContext, first.number)
  const asked = decimal(quantity / 1000)
  const tried = first && { ...buyerContext, variant: first.variant.id, past: [] }
  const passes = (each: Decimal) => !tried || brokenAlone(prepared, tried, each).length === 0
  const products = new Map<string, { readonly product: Product; variants: number }>()
  for (const { product } of reached) {
    const known = products.get(product.id)
    if (known) known.variants += 1
    else products.set(product.id, { product, variants: 1 })
  }
  return {
    item: first ? { sku: first.variant.sku, name: nameOf(first.product, first.variant) } : null,
    buyer: buyerName,
    levels: first && found ? levelsOf(prepared, first, rule, found) : [],
    tries: tried
      ? Array.from({ length: MOST_TRIED }, (_, at) => at + 1).map((each) => ({
          quantity: each,
          passes: passes(decimal(each)),
        }))
      : [],
    asked: {
      quantity: asked,
      passes: passes(asked),
      below: tried ? nearestAlone(prepared, tried, asked, 'below') : null,
      above: tried ? nearestAlone(prepared, tried, asked, 'above') : null,
    },
    products: [...products.values()].map(({ product, variants }) => ({
      name: product.name,
      href: recordHref('products', product.code),
      variants,
    })),
    reached: reached.length,
    others: othersOf(
      prepared,
      rule,
      reached.map(({ number }) => number),
    ),
    stuck: reached
      .filter(({ number }) => {
        const { limits } = findLimits(prepared, pricingContext, number)
        const { below, above } = nearestQuantities(decimal(1), limits)
        return below === null && above === null
      })
      .map(({ product, variant }) => nameOf(product, variant)),
  }
}

function nameOf(product: Product, variant: Variant): string {
  return itemName(product, variant)
}

/** Every level that says something of the item, field by field. */
function levelsOf(
  { store, index }: PreparedStore,
  {
    product,
    variant,
    number,
  }: { readonly product: Product; readonly variant: Variant; readonly number: number },
  rule: LimitRule,
  { setBy, together }: FoundLimits,
): readonly LevelRow[] {
  const facts = factsOf(store, index, number)
  const rules = [...store.limit.values()].filter(
    (each) =>
      each.status === 'active' &&
      (each.state === 'on' || each.id === rule.id) &&
      matchWhat(each.scope, facts).matches,
  )
  return LIMIT_FIELDS.flatMap((field): readonly LevelRow[] => {
    const source = setBy[field]
    const row = (
      by: string,
      href: string | null,
      about: string,
      limits: QuantityLimits,
      counts: boolean,
    ): readonly LevelRow[] =>
      limits[field] === null
        ? []
        : [{ field: FIELD_WORDS[field], by, href, about, value: textOf(limits[field]), counts }]
    return [
      ...row(
        variant.sku,
        recordHref('products', product.code),
        'variant',
        variant.limits,
        source?.kind === 'variant',
      ),
      ...row(
        product.name,
        recordHref('products', product.code),
        'product',
        product.limits,
        source?.kind === 'product',
      ),
      ...rules.flatMap((each) =>
        row(
          each.name,
          recordHref('limits', each.code),
          each.id === rule.id ? `this limit, priority ${each.rank}` : `limit, priority ${each.rank}`,
          each,
          (source?.kind === 'rule' && source.rule === each.id) || together.some(({ id }) => id === each.id),
        ),
      ),
    ]
  })
}

function textOf(value: QuantityLimits[LimitField]): string {
  if (value === null) return ''
  return typeof value === 'string' ? value : value.map(({ quantity }) => quantity).join(', ')
}

function othersOf(
  { store, index }: PreparedStore,
  rule: LimitRule,
  numbers: readonly number[],
): LimitView['others'] {
  return [...store.limit.values()].flatMap((other) => {
    if (other.id === rule.id || other.status !== 'active' || other.state !== 'on') return []
    const met = numbers.filter(scopeMatcher({ store, index }, other.scope)).length
    return met === 0
      ? []
      : [
          {
            name: other.name,
            href: recordHref('limits', other.code),
            about: `${limitPhrase(other)}; ${met} of the same`,
          },
        ]
  })
}
