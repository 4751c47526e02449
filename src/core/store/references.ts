import { eachInSteps, type Steps } from '../steps/steps'
import type { Assortment } from '../access/assortment'
import type { What } from '../predicates/what'
import type { Where } from '../predicates/where'
import type { Who } from '../predicates/who'
import { type Breaks, referenceOf } from '../price/lines/price-method'
import type { PromotionValue } from '../promotions/promotion'
import { RECORD_KINDS, type RecordKind } from '../issue/issue'
import type { Change, RecordOfKind, Store } from './store'

/** That one record speaks of another. */
export interface Reference {
  readonly field: string
  readonly kind: RecordKind
  readonly id: string
}

type AnyRecord = RecordOfKind[RecordKind]

/** Everything a record speaks of, so that it can be checked and followed. */
export function referencesOf(kind: RecordKind, record: AnyRecord): readonly Reference[] {
  return REFERENCES[kind](record as never)
}

type ReferencesOfKind = {
  readonly [Kind in RecordKind]: (record: RecordOfKind[Kind]) => readonly Reference[]
}

const REFERENCES: ReferencesOfKind = {
  settings: ({ taxClass, deliveryTaxClass }) => [
    ...to('taxClass', 'tax-class', [taxClass]),
    ...to('deliveryTaxClass', 'tax-class', [deliveryTaxClass]),
  ],
  currency: () => [],
  'exchange-rate': ({ currency }) => to('currency', 'currency', [currency]),
  channel: ({ assortment }) => assortmentReferences(assortment),
  region: () => [],
  'tax-class': () => [],
  tax: ({ upon }) => to('upon', 'tax', upon),
  'tax-rate': ({ tax, taxClass }) => [...to('tax', 'tax', [tax]), ...to('taxClass', 'tax-class', [taxClass])],
  category: ({ parent }) => to('parent', 'category', [parent]),
  'price-family': () => [],
  product: ({ categories, family, taxClass }) => [
    ...to('taxClass', 'tax-class', [taxClass]),
    ...to('categories', 'category', categories),
    ...to('family', 'price-family', [family]),
  ],
  variant: ({ product, family, taxClass }) => [
    ...to('taxClass', 'tax-class', [taxClass]),
    ...to('product', 'product', [product]),
    ...to('family', 'price-family', [family]),
  ],
  extra: ({ scope }) => whatReferences(scope),
  group: () => [],
  account: ({ groups }) => to('groups', 'group', groups),
  'price-list': ({ audience, scope, place, defaultLine }) => [
    ...whoReferences(audience),
    ...whatReferences(scope),
    ...whereReferences(place),
    ...(defaultLine ? breakReferences('defaultLine', defaultLine) : []),
  ],
  'price-line': (line) => [
    ...to('list', 'price-list', [line.list]),
    ...whatReferences(line.scope),
    ...breakReferences('method', line),
  ],
  contract: ({ accounts, groups, lists, assortment }) => [
    ...assortmentReferences(assortment),
    ...to('accounts', 'account', accounts),
    ...to('groups', 'group', groups),
    ...to('lists', 'price-list', lists),
  ],
  adjustment: ruleReferences,
  proof: ruleReferences,
  limit: ruleReferences,
  'access-rule': ruleReferences,
  passcode: ({ channel }) => to('channel', 'channel', [channel]),
  promotion: (promotion) => [...ruleReferences(promotion), ...valueReferences(promotion.value)],
}

function ruleReferences({
  audience,
  scope,
  place,
}: Pick<RecordOfKind['adjustment'], 'audience' | 'scope' | 'place'>): readonly Reference[] {
  return [...whoReferences(audience), ...whatReferences(scope), ...whereReferences(place)]
}

function valueReferences(value: PromotionValue): readonly Reference[] {
  if (value.kind === 'set')
    return value.parts.flatMap(({ scope }) =>
      scope ? whatReferences(scope).map((each) => ({ ...each, field: 'value' })) : [],
    )
  return value.kind === 'free-goods' && typeof value.gift === 'object'
    ? to('value', 'variant', [value.gift.variant])
    : []
}

function assortmentReferences(assortment: Assortment | null): readonly Reference[] {
  return [...(assortment?.include ?? []), ...(assortment?.exclude ?? [])].flatMap((term) => {
    if (term.kind === 'category') return to('assortment', 'category', [term.category])
    return term.kind === 'product'
      ? to('assortment', 'product', [term.product])
      : to('assortment', 'variant', [term.variant])
  })
}

/** Kinds no record speaks of, so that removing one need not search for dependants. */
const UNREFERENCED_KINDS: ReadonlySet<RecordKind> = new Set([
  'settings',
  'exchange-rate',
  'price-line',
  'contract',
  'adjustment',
  'tax-rate',
  'limit',
  'access-rule',
  'promotion',
  'proof',
])

function to(field: string, kind: RecordKind, ids: readonly (string | null)[]): readonly Reference[] {
  return ids.filter((id) => id !== null).map((id) => ({ field, kind, id }))
}

/** What people call a record. */
export function labelOf(kind: RecordKind, record: AnyRecord): string {
  if (kind === 'variant') return (record as RecordOfKind['variant']).sku
  if (kind === 'price-line') return `line ${(record as RecordOfKind['price-line']).position + 1}`
  if (kind === 'exchange-rate') {
    const { currency, from } = record as RecordOfKind['exchange-rate']
    return `${currency} ${from.slice(0, 10)}`
  }
  if (kind === 'tax-rate') {
    const { country, state, postcode, city } = record as RecordOfKind['tax-rate']
    return [city, postcode, state, country].filter(Boolean).join(', ') || 'everywhere'
  }
  if (kind === 'settings') return (record as RecordOfKind['settings']).name
  return (record as RecordOfKind['product']).code
}

/**
 * The records that speak of any that are to go, as far as they would be left without them: what people call them, by
 * `dependantKey` of what they speak of. One walk over the store, however many are to go.
 */
export function* findDependants(
  store: Store,
  removed: readonly Pick<Change, 'kind' | 'id'>[],
): Steps<ReadonlyMap<string, readonly string[]>> {
  const wanted = new Set(removed.filter(({ kind }) => !UNREFERENCED_KINDS.has(kind)).map(dependantKey))
  const found = new Map<string, string[]>()
  if (wanted.size === 0) return found
  for (const kind of RECORD_KINDS) {
    yield* eachInSteps((store[kind] as ReadonlyMap<string, AnyRecord>).values(), (record) => {
      const keys = referencesOf(kind, record).map(dependantKey)
      for (const key of new Set(keys)) {
        if (!wanted.has(key)) continue
        const labels = found.get(key)
        if (labels) labels.push(labelOf(kind, record))
        else found.set(key, [labelOf(kind, record)])
      }
    })
  }
  return found
}

export function dependantKey({ kind, id }: Pick<Change, 'kind' | 'id'>): string {
  return `${kind}/${id}`
}

function whoReferences({ include, exclude }: Who): readonly Reference[] {
  return [...include, ...exclude].flatMap((term) => {
    if (term.kind === 'group') return to('audience', 'group', [term.group])
    if (term.kind === 'passcode') return to('audience', 'passcode', [term.passcode])
    return term.kind === 'account' ? to('audience', 'account', [term.account]) : []
  })
}

function whatReferences({ include, exclude }: What): readonly Reference[] {
  return [...include, ...exclude].flatMap((term) => {
    switch (term.kind) {
      case 'category':
        return to('scope', 'category', [term.category])
      case 'family':
        return to('scope', 'price-family', [term.family])
      case 'product':
        return to('scope', 'product', [term.product])
      case 'variant':
        return to('scope', 'variant', [term.variant])
      case 'extra':
        return to('scope', 'extra', [term.extra])
      default:
        return []
    }
  })
}

function whereReferences({ include, exclude }: Where): readonly Reference[] {
  return [...include, ...exclude].flatMap((term) => {
    if (term.kind === 'channel') return to('place', 'channel', [term.channel])
    return term.kind === 'region' ? to('place', 'region', [term.region]) : []
  })
}

function breakReferences(field: string, { breaks }: Breaks): readonly Reference[] {
  return breaks.flatMap(({ method }) => {
    const reference = referenceOf(method)
    return reference?.kind === 'list' ? to(field, 'price-list', [reference.list]) : []
  })
}
