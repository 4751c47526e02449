import 'server-only'

import { type Product, resolveValue, type Variant, variantName } from '@/core/catalogue/product'
import { amountAt, shownAmounts } from '@/core/engine/amounts/amounts'
import { shownInBasis, storeBasis } from '@/core/engine/amounts/basis'
import { findPrice } from '@/core/engine/price/find-price'
import type { FoundPrice } from '@/core/engine/context/found-price'
import { breakAt } from '@/core/engine/lists/compiled-line'
import { findLimits } from '@/core/engine/rules/find-limits'
import { findRights } from '@/core/engine/rules/find-rights'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { fromUnits, toPrice } from '@/core/engine/lists/price-step'
import type { LadderEntry, PricingContext } from '@/core/engine/context/pricing-context'
import { resolveVantage, type Vantage } from '@/core/engine/context/vantage'
import { EVERYTHING } from '@/core/predicates/what'
import { isOwnRung } from '@/core/price/ladder'
import { onlyMethod } from '@/core/price/lines/price-method'
import { getSettings, type Store } from '@/core/store/store'
import { Slices } from '@/server/doors/slices'
import { findShownProduct, type ProductWithVariants } from '@/server/engine/catalogue-order'
import { type RequestContext, pricingContextOf } from '@/server/engine/request-context'
import { whatSentence } from '@/ui/format/rule-phrases'
import { quantityPhrase, rightsPhrase } from '@/ui/format/terms-phrases'
import { DEFAULT_VANTAGE, serializeVantage } from '@/ui/frame/vantage-url'
import type { BoardFilter } from './rows/board-url'
import {
  BLOCK_SIZE,
  type BoardCell,
  type BoardColumn,
  type BoardMark,
  type BoardProduct,
  type BoardVariant,
  type BoardView,
} from './board-view'
import { boardScope, productsOfBoard } from './rows/board-scope'
import { narrow } from './rows/narrow-board'
import { type ItemPromotions, openItemPromotions } from '@/core/engine/promoted/item-promotions'
import { promotedPrice } from '@/core/engine/promoted/promoted-price'
import { NO_FACTS, type PromotionFacts } from '@/core/promotions/facts'
import type { Steppe } from '@/server/engine/steppe'
import { factsOfBuyer } from '@/server/shop/promotion-facts'
import type { OpenColumn } from './columns/open-column'
import { liveAmount, liveBase, liveColumn, livePrice } from './cells/live-figures'
import { columnSubtitle, columnTitle } from './columns/column-words'
import { othersReached } from './columns/others-reached'

/** The board as somebody looks at it: columns, sizes and the first rows. */
export async function loadBoard(requestContext: RequestContext, filter: BoardFilter): Promise<BoardView> {
  const { prepared } = requestContext
  const { store } = prepared
  const columns = await columnsOf(requestContext, filter)
  const { what, problem } = boardScope(store, filter)
  const products = narrow(prepared, productsOfBoard(prepared, filter), columns, filter.only)
  const { currency, priceDigits } = getSettings(store)
  return {
    columns: columns.map(({ column }) => column),
    listNames: Object.fromEntries([...store['price-list'].values()].map(({ id, name }) => [id, name])),
    counts: products.map(({ variants }) => variants.length),
    variantCount: products.reduce((sum, { variants }) => sum + variants.length, 0),
    currency,
    digits: priceDigits,
    live: requestContext.live,
    isDraft: requestContext.view.draft !== null,
    asOf: requestContext.view.asOf,
    has: {
      categories: store.category.size,
      products: store.product.size,
      variants: store.variant.size,
      groups: store.group.size,
      lists: store['price-list'].size,
      accounts: store.account.size,
      contracts: store.contract.size,
      rates: store['tax-rate'].size,
    },
    firstBlock: await toBlock(prepared, columns, products.slice(0, BLOCK_SIZE)),
    what: what.include.length === 0 ? EVERYTHING : what,
    whatWords: problem === '' ? whatSentence(what, store) : filter.of || (filter.category ?? ''),
    whatProblem: problem,
  }
}

/** Some of the board's products, in its order. */
export async function loadBoardBlock(
  requestContext: RequestContext,
  filter: BoardFilter,
  from: number,
  count: number,
): Promise<readonly BoardProduct[]> {
  const { prepared } = requestContext
  const columns = await columnsOf(requestContext, filter)
  const products = narrow(prepared, productsOfBoard(prepared, filter), columns, filter.only)
  return toBlock(prepared, columns, products.slice(from, from + count))
}

async function columnsOf(
  requestContext: RequestContext,
  filter: BoardFilter,
): Promise<readonly OpenColumn[]> {
  const { steppe, prepared, now, view } = requestContext
  const vantages = boardVantages(prepared.store, vantageOf(requestContext), filter.columns)
  const facts = await factsOfColumns(steppe, prepared, vantages, now)
  return openColumns(prepared, vantages, now, facts, view.draft?.live ?? null)
}

/** In slices: who looks first makes what many prices are found with. */
async function toBlock(
  prepared: PreparedStore,
  columns: readonly OpenColumn[],
  products: readonly ProductWithVariants[],
): Promise<readonly BoardProduct[]> {
  return new Slices().map(products, (each) => toBoardProduct(prepared, columns, each))
}

/** Somebody who does not exist looks as a guest. */
function vantageOf({ vantage, as }: RequestContext): Vantage {
  return { ...vantage, as }
}

/**
 * The columns chosen, else guests and every group, and the buyer looked as where that is neither. A column that
 * says nothing of quantity, place, currency or time follows the vantage.
 */
function boardVantages(store: Store, vantage: Vantage, chosen: readonly Vantage[]): readonly Vantage[] {
  if (chosen.length > 0) return chosen.map((column) => ({ ...vantage, ...differing(column) }))
  const groups = [...store.group.values()]
    .filter(({ status }) => status === 'active')
    .sort((left, right) => left.position - right.position)
  const codes: Vantage['as'][] = ['guest', ...groups.map(({ code }) => `group:${code}` as const)]
  // Whoever is looked as stands first, where nothing scrolls away.
  if (!codes.includes(vantage.as)) codes.unshift(vantage.as)
  return codes.map((as) => ({ ...vantage, as }))
}

function differing(column: Vantage): Partial<Vantage> {
  const parts = Object.entries(column).filter(
    ([part, value]) => part === 'as' || value !== DEFAULT_VANTAGE[part as keyof Vantage],
  )
  return Object.fromEntries(parts)
}

/** What promotions ask of the buyers of some columns: of accounts what they did, of others how often each was used at all. */
export async function factsOfColumns(
  steppe: Steppe,
  prepared: PreparedStore,
  vantages: readonly Vantage[],
  now: number,
): Promise<ReadonlyMap<string, PromotionFacts>> {
  const facts = new Map<string, PromotionFacts>()
  let others: PromotionFacts | null = null
  for (const vantage of vantages) {
    const { buyerContext } = resolveVantage(prepared.store, vantage, now)
    const standing = { prepared, pricingContext: pricingContextOf(prepared, buyerContext) }
    const account = buyerContext.buyer.kind === 'account' ? buyerContext.buyer.account : null
    const known: PromotionFacts =
      (account === null ? others : null) ?? (await factsOfBuyer(steppe, standing, { account, visitor: null }))
    if (account === null) others = known
    facts.set(vantage.as, known)
  }
  return facts
}

/** `now` is the present instant, for vantages that name none. */
export function openColumns(
  prepared: PreparedStore,
  vantages: readonly Vantage[],
  now: number,
  facts: ReadonlyMap<string, PromotionFacts>,
  live: PreparedStore | null,
): readonly OpenColumn[] {
  const others = vantages.map((vantage) => serializeVantage({ ...vantage, as: 'guest' }).toString())
  const onlyBuyers =
    others.every((text) => text === others[0]) &&
    new Set(vantages.map(({ as }) => as)).size === vantages.length
  return vantages.map((vantage) => {
    const { buyerContext, quantity, buyerName } = resolveVantage(prepared.store, vantage, now)
    const pricingContext = pricingContextOf(prepared, buyerContext)
    const own = pricingContext.ladder.flat().filter(({ rung }) => isOwnRung(rung))
    const column: BoardColumn = {
      key: onlyBuyers ? vantage.as : serializeVantage(vantage).toString(),
      vantage,
      title: columnTitle(buyerName, vantage, vantages),
      subtitle: columnSubtitle(prepared.store, vantage, vantages, pricingContext, subtitleOf(own[0])),
      ownLists: own
        .filter(({ isForeign }) => !isForeign)
        .map(({ compiled: { list } }) => ({
          id: list.id,
          name: list.name,
          others: othersReached(prepared.store, list, vantage.as),
        })),
      currency: pricingContext.currency,
      digits: pricingContext.digits,
    }
    const itemPromotions = openItemPromotions(
      prepared,
      pricingContext,
      buyerContext.at,
      facts.get(vantage.as) ?? NO_FACTS,
    )
    const beside = live && liveColumn(live, vantage, now)
    return { column, pricingContext, itemPromotions, live: beside, quantity }
  })
}

/** One variant's row. */
export function toBoardVariant(
  prepared: PreparedStore,
  columns: readonly OpenColumn[],
  product: Product,
  variant: Variant,
): BoardVariant {
  const base = resolveValue(product, variant, 'basePrice')
  const number = prepared.index.numberOf.get(variant.id) as number
  const cost = resolveValue(product, variant, 'cost').value
  const live = columns[0]?.live?.prepared ?? null
  return {
    id: variant.id,
    sku: variant.sku,
    name: variantName(product, variant) || product.name,
    base: base.value,
    ownBase: base.from === 'variant',
    cost,
    liveBase: liveAmount(live, variant.id, 'basePrice', base.value),
    liveCost: liveAmount(live, variant.id, 'cost', cost),
    cells: columns.map((open) => toCell(prepared, open, number, variant.id)),
  }
}

function toCell(
  prepared: PreparedStore,
  { pricingContext, itemPromotions, quantity, live }: OpenColumn,
  number: number,
  variant: string,
): BoardCell {
  const found = findPrice(prepared, pricingContext, number, { own: quantity, counted: null })
  const { digits, currencyView } = pricingContext
  const amount = (field: 'basePrice' | 'cost') =>
    toPrice(amountAt(shownAmounts(prepared, field, currencyView), number), digits)
  const access = findRights(prepared, pricingContext, number)
  const price = toPrice(found.units, digits)
  return {
    amount: price,
    live: livePrice(live, variant, quantity, price),
    compared: shownInBasis(prepared, currencyView, number, found, storeBasis(prepared)),
    list: found.entry?.compiled.list.id ?? null,
    promoted: promotedCell(itemPromotions, number, found, digits),
    marks: marksOf(prepared, pricingContext, found, quantity),
    base: amount('basePrice'),
    cost: amount('cost'),
    hidden: !access.see,
    barred: access.see && !access.buy ? rightsPhrase(access) : '',
    limits: quantityPhrase(findLimits(prepared, pricingContext, number).limits),
  }
}

function promotedCell(
  itemPromotions: ItemPromotions,
  number: number,
  found: FoundPrice,
  digits: number,
): BoardCell['promoted'] {
  const promoted = promotedPrice(itemPromotions, number, found)
  return (
    promoted && {
      amount: fromUnits(promoted.units, digits),
      by: promoted.by.map(({ promotion }) => promotion.name).join(', '),
    }
  )
}

function marksOf(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  found: FoundPrice,
  quantity: number,
): readonly BoardMark[] {
  const { entry, line } = found
  const marks: BoardMark[] = []
  if (Number.isNaN(found.units)) return marks
  if (found.isPublic) marks.push('G')
  else if (entry) marks.push(entry.contract ? 'C' : 'L')
  if (entry && breakAt(entry.compiled.line(line), quantity) > 0) marks.push('Q')
  const isAdjusted = pricingContext.currencyView.adjustments.length > 0 || found.units !== found.unadjusted
  if (isAdjusted && !entry?.contract?.isProtected && !found.isPublic) marks.push('A')
  const isConverted = entry
    ? entry.isForeign
    : pricingContext.currency !== getSettings(prepared.store).currency
  if (isConverted) marks.push('≈')
  if (found.basis !== storeBasis(prepared)) marks.push('T')
  return marks
}

function toBoardProduct(
  prepared: PreparedStore,
  columns: readonly OpenColumn[],
  { product, variants }: { product: Product; variants: readonly Variant[] },
): BoardProduct {
  return {
    id: product.id,
    code: product.code,
    name: product.name,
    base: product.basePrice,
    liveBase: liveBase(columns[0]?.live?.prepared ?? null, product.id, product.basePrice),
    isWhole: variants.length === (findShownProduct(prepared.store, product.code)?.variants.length ?? 0),
    variants: variants.map((variant) => toBoardVariant(prepared, columns, product, variant)),
  }
}

function subtitleOf(first: LadderEntry | undefined): string {
  if (!first) return 'no own list'
  const { compiled, contract } = first
  if (contract) return contract.code
  const { list } = compiled
  const method = list.defaultLine && onlyMethod(list.defaultLine)
  return method?.kind === 'percent' && method.reference.kind === 'base'
    ? `${list.purpose} · ${method.percent.replace('-', '−')} %`
    : list.name
}
