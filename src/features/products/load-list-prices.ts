import 'server-only'

import { accountFacts } from '@/core/buyers/buyer'
import { variantName } from '@/core/catalogue/product'
import type { Decimal } from '@/core/decimal/decimal'
import { amountAt, referenceAmounts } from '@/core/engine/amounts'
import { shownInBasis, storeBasis } from '@/core/engine/basis'
import { emptyListPrice, findInList } from '@/core/engine/find-in-list'
import { lensInto } from '@/core/engine/lens'
import { toPrice } from '@/core/engine/price-step'
import { isBelowCost, marginPercent } from '@/core/price/margin'
import { contractsHolding, isReachedBy } from '@/core/price/reached-by'
import { getSettings, priceDigitsOf } from '@/core/store/store'
import { Slices } from '@/server/doors/slices'
import type { Outlook } from '@/server/engine/look-from'
import { formatAmount } from '@/ui/format/amount'
import { breaksPhrase, spanPhrase, whoSentence } from '@/ui/format/rule-phrases'
import { recordHref } from '@/ui/frame/record-href'

/** What a variant costs in one list. */
export interface ListPriceCell {
  readonly variant: string
  readonly sku: string
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

export interface ListPricesView {
  readonly variants: readonly { readonly id: string; readonly name: string }[]
  readonly rows: readonly ListPriceRow[]
  /** Lists that have no price for it, to make one in. */
  readonly others: readonly { readonly list: string; readonly name: string }[]
  readonly more: number
}

/** Variants side by side: more would not fit. */
const MOST_VARIANTS = 6

/** A product's prices in the base and in every list that has one for it, whoever it is for. */
export async function loadListPrices(
  { prepared, situation, quantity }: Outlook,
  product: string,
): Promise<ListPricesView> {
  const { store, index } = prepared
  const home = getSettings(store).currency
  const record = store.product.get(product)
  const all = [...store.variant.values()]
    .filter((variant) => variant.product === product && variant.status === 'active')
    .sort((left, right) => left.position - right.position)
  const variants = all.slice(0, MOST_VARIANTS)
  const numbers = variants.map(({ id }) => index.numberOf.get(id) ?? -1)
  const baseLens = lensInto(prepared, situation.lens, home)
  const rows: ListPriceRow[] = [
    {
      list: null,
      name: 'Base price',
      href: null,
      rule: '',
      who: 'whoever no list has a price for',
      currency: home,
      cells: variants.map(({ id, sku }, at) => {
        const units = amountAt(referenceAmounts(prepared, 'basePrice', baseLens), numbers[at] ?? -1)
        return cellOf(baseLens, numbers[at] ?? -1, id, sku, units, storeBasis(prepared))
      }),
    },
  ]
  const others: ListPricesView['others'][number][] = []
  const found = emptyListPrice()
  const slices = new Slices()
  for (const list of store['price-list'].values()) {
    const compiled = prepared.lists.get(list.id)
    if (!compiled || list.status !== 'active' || list.state !== 'on') continue
    if (slices.isDue()) await slices.rest()
    const lens = lensInto(prepared, situation.lens, list.currency)
    const basis = compiled.basis ?? storeBasis(prepared)
    const rules = new Set<string>()
    const cells = variants.map(({ id, sku }, at): ListPriceCell => {
      const number = numbers[at] ?? -1
      const isFound = findInList(prepared, lens, compiled, number, { own: quantity, counted: null }, found)
      if (isFound) rules.add(ruleOf(found.line))
      return cellOf(lens, number, id, sku, isFound ? found.units : Number.NaN, basis)
    })
    if (cells.every(({ price }) => price === '')) {
      others.push({ list: list.id, name: list.name })
      continue
    }
    rows.push({
      list: list.id,
      name: list.name,
      href: recordHref('price-lists', list.code),
      rule: rules.size === 1 ? ([...rules][0] ?? '') : 'several lines',
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
    variants: variants.map((variant) => ({
      id: variant.id,
      name: (record && variantName(record, variant)) || variant.sku,
    })),
    rows,
    others: others.sort((left, right) => left.name.localeCompare(right.name, 'en')),
    more: all.length - variants.length,
  }

  function cellOf(
    lens: typeof baseLens,
    number: number,
    variant: string,
    sku: string,
    units: number,
    basis: ReturnType<typeof storeBasis>,
  ): ListPriceCell {
    const price = toPrice(units, lens.digits)
    const compared = shownInBasis(prepared, lens, number, { units, basis }, storeBasis(prepared))
    const cost = toPrice(amountAt(referenceAmounts(prepared, 'cost', lens), number), lens.digits)
    return {
      variant,
      sku,
      price: price === null ? '' : formatAmount(price, lens.digits),
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
