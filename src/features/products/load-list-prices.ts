import 'server-only'

import { accountFacts } from '@/core/buyers/buyer'
import type { Extra } from '@/core/catalogue/extra'
import { type Variant, variantName } from '@/core/catalogue/product'
import type { Decimal } from '@/core/decimal/decimal'
import { amountAt, referenceAmounts, shownAmounts } from '@/core/engine/amounts/amounts'
import { shownInBasis, storeBasis } from '@/core/engine/amounts/basis'
import { currencyViewInto } from '@/core/engine/context/currency-view'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { toPrice } from '@/core/engine/lists/price-step'
import { scopeMatcher } from '@/core/engine/items/scope-matcher'
import type { ItemTerm } from '@/core/price/lines/fix-price'
import { isBelowCost, marginPercent } from '@/core/price/margin'
import { contractsHolding, isReachedBy } from '@/core/price/reached-by'
import { getSettings, priceDigitsOf } from '@/core/store/store'
import { priceInList } from '@/server/engine/price-in-list'
import { Slices } from '@/server/doors/slices'
import type { RequestContext } from '@/server/engine/request-context'
import { formatAmount } from '@/ui/format/amount'
import { breaksPhrase, spanPhrase, whoSentence } from '@/ui/format/rule-phrases'
import { recordHref } from '@/ui/frame/record-href'

/** What a variant or extra costs in one list. */
export interface ListPriceCell {
  readonly item: ItemTerm
  /** SKU of a variant, name of an extra. */
  readonly label: string
  /** As it is typed; empty without a price. */
  readonly price: string
  readonly margin: Decimal | null
  readonly isBelowCost: boolean
}

export interface ListPriceRow {
  /** Id of the list; `null` for the base price. */
  readonly list: string | null
  readonly name: string
  readonly href: string | null
  /** The rule that makes its prices, where one does. */
  readonly rule: string
  /** "Bee farms, 7 accounts" */
  readonly who: string
  readonly currency: string
  readonly cells: readonly ListPriceCell[]
}

interface PricedItem {
  readonly id: string
  readonly name: string
  /** Of an extra: where its own price is set. */
  readonly href: string | null
}

export interface ListPricesView {
  /** Variants, then the extras that go with them. */
  readonly items: readonly PricedItem[]
  readonly rows: readonly ListPriceRow[]
  /** Lists that have no price for it, to make one in. */
  readonly others: readonly { readonly list: string; readonly name: string }[]
  readonly more: number
}

/** Variants side by side: more would not fit. */
const MOST_VARIANTS = 6

/** A product's prices in the base and in every list that has one for it, whoever it is for. */
export async function loadListPrices(
  requestContext: RequestContext,
  product: string,
): Promise<ListPricesView> {
  const { prepared, pricingContext } = requestContext
  const { store, index } = prepared
  const home = getSettings(store).currency
  const record = store.product.get(product)
  const all = [...store.variant.values()]
    .filter((variant) => variant.product === product && variant.status === 'active')
    .sort((left, right) => left.position - right.position)
  const shown = all.slice(0, MOST_VARIANTS)
  const items: (PricedItem & { readonly number: number; readonly item: ItemTerm; readonly label: string })[] =
    [
      ...shown.map((variant) => ({
        id: variant.id,
        name: (record && variantName(record, variant)) || variant.sku,
        href: null,
        number: index.numberOf.get(variant.id) ?? -1,
        item: { kind: 'variant', variant: variant.id } as const,
        label: variant.sku,
      })),
      ...extrasOf(prepared, all).map(({ id, code, name }) => ({
        id,
        name,
        href: recordHref('extras', code),
        number: index.numberOf.get(id) ?? -1,
        item: { kind: 'extra', extra: id } as const,
        label: name,
      })),
    ]
  const baseCurrencyView = currencyViewInto(prepared, pricingContext.currencyView, home)
  const rows: ListPriceRow[] = [
    {
      list: null,
      name: 'Base price',
      href: null,
      rule: '',
      who: 'whoever no list has a price for',
      currency: home,
      cells: items.map((each) => {
        const units = amountAt(referenceAmounts(prepared, 'basePrice', baseCurrencyView), each.number)
        return cellOf(baseCurrencyView, each, units, storeBasis(prepared))
      }),
    },
  ]
  const others: ListPricesView['others'][number][] = []
  const slices = new Slices()
  for (const list of store['price-list'].values()) {
    const compiled = prepared.lists.get(list.id)
    if (!compiled || list.status !== 'active' || list.state !== 'on') continue
    await slices.rest()
    const basis = compiled.basis ?? storeBasis(prepared)
    const rules = new Set<string>()
    const cells = items.map((each): ListPriceCell => {
      const found = priceInList(requestContext, compiled, each.number)
      // A rule for extras stands on their own sheet.
      if (!Number.isNaN(found.units) && each.item.kind === 'variant') rules.add(ruleOf(found.line))
      return cellOf(found.currencyView, each, found.units, basis)
    })
    if (cells.every(({ price }) => price === '')) {
      others.push({ list: list.id, name: list.name })
      continue
    }
    rows.push({
      list: list.id,
      name: list.name,
      href: recordHref('price-lists', list.code),
      rule: rules.size > 1 ? 'several lines' : ([...rules][0] ?? 'extras alone'),
      who: whoGets(list),
      currency: list.currency,
      cells,
    })

    function ruleOf(place: number): string {
      const line = compiled?.lines[place] ?? list.defaultLine
      return line
        ? breaksPhrase(
            line,
            (amount) => formatAmount(amount, priceDigitsOf(store, list.currency)),
            (id) => store['price-list'].get(id)?.name ?? id,
          )
        : ''
    }
  }
  return {
    items: items.map(({ id, name, href }) => ({ id, name, href })),
    rows,
    others: others.sort((left, right) => left.name.localeCompare(right.name, 'en')),
    more: all.length - shown.length,
  }

  function cellOf(
    currencyView: typeof baseCurrencyView,
    { number, item, label }: (typeof items)[number],
    units: number,
    basis: ReturnType<typeof storeBasis>,
  ): ListPriceCell {
    const price = toPrice(units, currencyView.digits)
    const compared = shownInBasis(prepared, currencyView, number, { units, basis }, storeBasis(prepared))
    const cost = toPrice(amountAt(shownAmounts(prepared, 'cost', currencyView), number), currencyView.digits)
    return {
      item,
      label,
      price: price === null ? '' : formatAmount(price, currencyView.digits),
      margin: compared === null || cost === null ? null : marginPercent(compared, cost),
      isBelowCost: compared !== null && cost !== null && isBelowCost(compared, cost),
    }
  }

  function whoGets(list: NonNullable<ReturnType<(typeof store)['price-list']['get']>>): string {
    const holding = contractsHolding(store.contract.values(), list.id)
    const accounts = [...store.account.values()].filter((account) =>
      isReachedBy(list, holding, accountFacts(store.group, account)),
    ).length
    const audience = list.audience.include.length === 0 ? '' : whoSentence(list.audience, store)
    const names = [audience, ...holding.map(({ code }) => `contract ${code}`)].filter(Boolean).join(', ')
    const when =
      list.schedule.from || list.schedule.to ? `, ${spanPhrase(list.schedule.from, list.schedule.to)}` : ''
    return `${names || 'nobody yet'}, ${accounts} ${accounts === 1 ? 'account' : 'accounts'}${when}`
  }
}

/** The extras that go with any of some variants, in their order. */
function extrasOf(prepared: PreparedStore, variants: readonly Variant[]): readonly Extra[] {
  const { store, index } = prepared
  const numbers = variants.map(({ id }) => index.numberOf.get(id) ?? -1)
  return [...store.extra.values()]
    .filter(({ status, scope }) => {
      if (status !== 'active') return false
      const goesWith = scopeMatcher(prepared, scope)
      return numbers.some((number) => number >= 0 && goesWith(number))
    })
    .sort((left, right) => left.position - right.position)
}
