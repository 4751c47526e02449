import 'server-only'

import { findBuyer } from '@/core/buyers/buyer-code'
import { type InheritedField, resolveValue, type Variant } from '@/core/catalogue/product'
import type { Decimal } from '@/core/decimal/decimal'
import { amountAt, shownAmounts } from '@/core/engine/amounts/amounts'
import { shownInBasis, storeBasis } from '@/core/engine/amounts/basis'
import { findPrice } from '@/core/engine/price/find-price'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import { fromUnits, toPrice } from '@/core/engine/lists/price-step'
import { resolveVantage, type Vantage } from '@/core/engine/context/vantage'
import { findNearest } from '@/core/issue/issue'
import { fixPrice, type LineChange, releasePrice } from '@/core/price/lines/fix-price'
import { evaluatePriceExpression, parsePriceExpression } from '@/core/price/price-expression'
import type { Refusal } from '@/core/store/refusal'
import { getSettings } from '@/core/store/store'
import { findByCode } from '@/core/catalogue/find-by-code'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { EVERYTHING } from '@/core/predicates/what'
import { ALWAYS } from '@/core/predicates/when'
import { EVERYWHERE } from '@/core/predicates/where'
import type { PriceLine, PriceList } from '@/core/price/lines/price-list'
import { codeFromName } from '@/core/store/code-from-name'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import { meansTheSame } from '@/core/store/same-meaning'
import { randomUUID } from 'node:crypto'
import { revisionOf, type View } from '../views/view'
import { commit } from './commit'
import type { Committed } from './commit-outcome'
import type { ChangeRequest } from './weigh'
import { toRefusal } from './to-refusal'
import { currentInstant } from '@/server/clock'

/** One figure typed over another. `seen` is the figure that was on the screen. */
export type AmountEdit =
  | {
      readonly kind: 'value'
      readonly record: 'product' | 'variant'
      readonly id: string
      readonly field: InheritedField
      /** Empty to take the value over from the product again (or to have none). */
      readonly typed: string
      readonly seen: Decimal | null
    }
  | {
      readonly kind: 'list-price'
      /** Empty with `only`, for an account without any. */
      readonly list: string
      /** For the account it was looked at as alone: into a list that is for nobody else, made where there is none. */
      readonly only?: boolean
      readonly variant: string
      /** Where the price was looked at from. */
      readonly from: Vantage
      readonly typed: string
      readonly seen: Decimal | null
    }

export type EditOutcome = Committed | { readonly ok: false; readonly refusal: Refusal }

type Read =
  | { readonly ok: true; readonly requests: readonly ChangeRequest[] }
  | { readonly ok: false; readonly refusal: Refusal }

/** What the edits before one have asked for already, by record. */
type Requested = Map<string, ChangeRequest>

const WEIGHT_DIGITS = 3

/** Makes all of the edits as one change set, or none and says why. */
export async function editAmounts(
  view: View,
  edits: readonly AmountEdit[],
  note: { readonly author: string; readonly at: Date },
): Promise<EditOutcome> {
  const requests: Requested = new Map()
  for (const edit of edits) {
    const read = edit.kind === 'value' ? readValueEdit(view, edit) : readListEdit(view, edit, requests)
    if (!read.ok) return edits.length === 1 ? read : { ok: false, refusal: inBatch(view, edit, read.refusal) }
    for (const request of read.requests) {
      const before = requests.get(request.id)
      // Of one record edited twice, what it is in the end counts, on the revision that was seen at first.
      requests.set(request.id, before ? ({ ...request, seen: before.seen } as ChangeRequest) : request)
    }
  }
  const outcome = await commit(view, [...requests.values()], { ...note, note: describe(view, edits) })
  return outcome.ok ? outcome : { ok: false, refusal: toRefusal(outcome) }
}

function readValueEdit(view: View, edit: Extract<AmountEdit, { kind: 'value' }>): Read {
  const { store } = view.prepared
  const { priceDigits } = getSettings(store)
  const record = store[edit.record].get(edit.id)
  if (!record) return unknown(edit.record, edit.id, [...store[edit.record].keys()])
  const product = edit.record === 'product' ? record : store.product.get((record as Variant).product)
  const shown =
    edit.record === 'variant' && product && 'code' in product
      ? resolveValue(product, record as Variant, edit.field).value
      : record[edit.field]
  if (shown !== edit.seen) return refuse({ code: 'changed-meanwhile', seen: edit.seen, current: shown })

  const seen = revisionOf(view, edit.record, edit.id)
  const request = (value: string | null) =>
    ({ kind: edit.record, id: edit.id, seen, after: { ...record, [edit.field]: value } }) as ChangeRequest
  if (edit.typed.trim() === '') return { ok: true, requests: [request(null)] }

  const cost =
    edit.record === 'variant' && product && 'code' in product
      ? resolveValue(product, record as Variant, 'cost').value
      : record.cost
  const digits = edit.field === 'weight' ? WEIGHT_DIGITS : priceDigits
  const amount = readTyped(edit.typed, { current: shown, cost, digits })
  return amount.ok ? { ok: true, requests: [request(amount.value)] } : amount
}

function readListEdit(
  view: View,
  edit: Extract<AmountEdit, { kind: 'list-price' }>,
  requested: Requested,
): Read {
  const prepared = view.prepared
  const { store } = prepared
  const variant = store.variant.get(edit.variant)
  const product = variant && store.product.get(variant.product)
  const buyer = findBuyer(store.group, store.account, edit.from.as)
  const own = edit.only && buyer?.kind === 'account' ? ownListOf(prepared, edit, buyer.account) : null
  const list = own?.list ?? store['price-list'].get(edit.list)
  if (!list) return unknown('price list', edit.list, [...store['price-list'].keys()])
  if (!variant || !product) return unknown('variant', edit.variant, [...store.variant.keys()])
  if (!buyer)
    return unknown(
      'buyer',
      edit.from.as,
      [...store.group.values()].map(({ code }) => `group:${code}`),
    )

  const { buyerContext, quantity } = resolveVantage(store, edit.from, currentInstant().getTime())
  const opened = openPricingContext(prepared, buyerContext)
  const number = prepared.index.numberOf.get(variant.id)
  if (!opened.ok || number === undefined) return unknown('variant', edit.variant, [])
  const { digits, currency } = opened.value
  const found = findPrice(prepared, opened.value, number, { own: quantity, counted: null })
  const current = toPrice(found.units, digits)
  if (list.currency !== currency)
    return refuse({ code: 'made-after-list', list: list.name, why: 'converted' })
  if (found.entry?.compiled.list.id === list.id && found.units !== found.unadjusted)
    return refuse({ code: 'made-after-list', list: list.name, why: 'adjusted' })
  if (current !== edit.seen) return refuse({ code: 'changed-meanwhile', seen: edit.seen, current })

  const item = { kind: 'variant', variant: variant.id } as const
  const lines = linesNow(prepared.lists.get(list.id)?.lines ?? [], list.id, requested)
  if (edit.typed.trim() === '') {
    const released = own?.isNew ? [] : releasePrice(lines, item)
    return { ok: true, requests: lineRequests(view, released) }
  }
  // What is typed is an amount of the list, so what it starts from is brought to the list's currency and basis.
  const { currencyView } = opened.value
  const basis = prepared.lists.get(list.id)?.basis ?? storeBasis(prepared)
  const costs = shownAmounts(prepared, 'cost', currencyView)
  const cost = { units: amountAt(costs, number), basis: storeBasis(prepared) }
  const amount = readTyped(edit.typed, {
    current: shownInBasis(prepared, currencyView, number, found, basis),
    cost: shownInBasis(prepared, currencyView, number, cost, basis),
    digits,
  })
  if (!amount.ok) return amount
  const fixed = fixPrice(lines, item, amount.value, {
    list: list.id,
    id: randomUUID(),
    quantity: fromUnits(quantity, 3),
  })
  const asked = lineRequests(view, fixed)
  if (!own?.isNew) return { ok: true, requests: asked }
  return {
    ok: true,
    requests: [{ kind: 'price-list', id: list.id, seen: null, after: list }, ...asked],
  }
}

/**
 * The list that is for one account and nobody else, in the currency they are looked at in, always and for everything; a new
 * one where there is none.
 */
function ownListOf(
  { store }: PreparedStore,
  { from }: Extract<AmountEdit, { kind: 'list-price' }>,
  account: string,
): { readonly list: PriceList; readonly isNew: boolean } {
  const standing = resolveVantage(store, from, currentInstant().getTime()).buyerContext
  const currency = standing.currency ?? store.account.get(account)?.currency ?? getSettings(store).currency
  const audience = { include: [{ kind: 'account', account } as const], exclude: [] }
  const like = { audience, place: EVERYWHERE, schedule: ALWAYS, scope: EVERYTHING, currency }
  const known = [...store['price-list'].values()].find(
    (list) =>
      list.status === 'active' &&
      list.state === 'on' &&
      Object.entries(like).every(([field, value]) => meansTheSame(list[field as keyof typeof like], value)),
  )
  if (known) return { list: known, isNew: false }
  const name = `Own prices of ${store.account.get(account)?.name ?? account}`
  const code = codeFromName(name, (each) => findByCode(store['price-list'], each) !== null, 'own-prices')
  return { list: { ...RECORD_DEFAULTS['price-list'], ...like, id: randomUUID(), code, name }, isNew: true }
}

/** The lines of a list as the edits before leave them. */
function linesNow(lines: readonly PriceLine[], list: string, requested: Requested): readonly PriceLine[] {
  if (requested.size === 0) return lines
  const kept = lines.flatMap((line) => {
    const request = requested.get(line.id)
    return request ? ((request.after as PriceLine | null) ?? []) : line
  })
  const known = new Set(lines.map(({ id }) => id))
  const made = [...requested.values()].flatMap(({ kind, id, after }) =>
    kind === 'price-line' && !known.has(id) && after?.list === list ? (after as PriceLine) : [],
  )
  return [...kept, ...made]
}

/** What changes of lines come to as requests, on the revisions they have now. */
export function lineRequests(view: View, changes: readonly LineChange[]): readonly ChangeRequest[] {
  return changes.map(({ before, after }): ChangeRequest => {
    const id = (before ?? (after as PriceLine)).id
    return { kind: 'price-line', id, seen: before && revisionOf(view, 'price-line', id), after }
  })
}

/** An amount as it is typed over another: 19.90, +5%, m35. */
export function readTyped(
  typed: string,
  context: { current: Decimal | null; cost: Decimal | null; digits: number },
): { readonly ok: true; readonly value: Decimal } | { readonly ok: false; readonly refusal: Refusal } {
  const expression = parsePriceExpression(typed)
  const amount = expression.ok ? evaluatePriceExpression(expression.value, context) : expression
  if (amount.ok) return amount
  return refuse({ code: 'expression', error: amount.error, typed, digits: context.digits })
}

/** Of many figures, the one that was refused is named. */
function inBatch(view: View, edit: AmountEdit, because: Refusal): Refusal {
  return { code: 'one-of-many', label: labelOf(view, edit), because }
}

function labelOf(view: View, edit: AmountEdit): string {
  const { store } = view.prepared
  if (edit.kind === 'list-price') {
    const list = edit.only ? 'a list of their own' : (store['price-list'].get(edit.list)?.name ?? edit.list)
    return `${store.variant.get(edit.variant)?.sku ?? edit.variant} in ${list}`
  }
  const label = edit.record === 'variant' ? store.variant.get(edit.id)?.sku : store.product.get(edit.id)?.code
  return `${FIELD_NAMES[edit.field]} of ${label ?? edit.id}`
}

function describe(view: View, edits: readonly AmountEdit[]): string {
  const [first] = edits
  if (!first || edits.length > 1) return `${edits.length} prices edited`
  return `${labelOf(view, first)}: ${first.kind === 'value' ? first.typed.trim() || 'as its product' : first.typed}`
}

const FIELD_NAMES: Readonly<Record<InheritedField, string>> = {
  basePrice: 'Base price',
  cost: 'Cost',
  recommendedPrice: 'Recommended price',
  floor: 'Floor',
  weight: 'Weight',
}

function unknown(what: string, value: string, known: readonly string[]): Extract<Read, { ok: false }> {
  return refuse({ code: 'unknown', what, value, nearest: findNearest(value, known) })
}

function refuse(refusal: Refusal): Extract<Read, { ok: false }> {
  return { ok: false, refusal }
}
