import 'server-only'

import { proofSentence } from '@/ui/format/proof-phrases'
import { PROMOTION_KIND_NAMES, promotionPhrase } from '@/ui/format/promotion-phrases'
import { accountFacts } from '@/core/buyers/buyer'
import { findPrice } from '@/core/engine/price/find-price'
import { isPartyTo } from '@/core/price/contract'
import { startOfDay } from '@/core/predicates/instant'
import { matchWhen } from '@/core/predicates/when'
import type { Promotion } from '@/core/promotions/promotion'
import { getSettings, type RecordOfKind } from '@/core/store/store'
import { readUses } from '@/server/shop/promotion-uses'
import type { RequestContext } from '@/server/engine/request-context'
import {
  breaksPhrase,
  whatSentence,
  whenSentence,
  whereSentence,
  whoSentence,
  spanPhrase,
} from '@/ui/format/rule-phrases'
import { DISPLAY_WORDS, EFFECT_WORDS, GATE_WORDS, limitPhrase } from '@/ui/format/terms-phrases'
import { currentRate } from '@/sheet/record/record-flags'
import type { EditableKind } from '@/sheet/record/sections'

interface Column<Kind extends EditableKind> {
  readonly title: string
  readonly cell: (record: RecordOfKind[Kind], requestContext: RequestContext) => string
}

/** A column that looks at the whole store once, not once a record. */
interface CountedColumn {
  readonly title: string
  readonly count: (
    requestContext: RequestContext,
  ) => ReadonlyMap<string, number> | Promise<ReadonlyMap<string, number>>
}

/** Categories stand on their tree instead. */
export type TabledKind = Exclude<EditableKind, 'category'>

type ColumnsOfKind = { readonly [Kind in TabledKind]: readonly (Column<Kind> | CountedColumn)[] }

const names = (ids: readonly string[], records: ReadonlyMap<string, { readonly name: string }>) =>
  ids.map((id) => records.get(id)?.name ?? id).join(', ')

async function usesOfPromotions({
  steppe,
  prepared,
  now,
}: RequestContext): Promise<ReadonlyMap<string, number>> {
  const today = startOfDay(new Date(now), getSettings(prepared.store).timeZone)
  const used = await steppe.presence.orKnown<Awaited<ReturnType<typeof readUses>>>(
    () => readUses(steppe.database, { account: null, visitor: null }, today),
    () => ({}),
  )
  return new Map(Object.entries(used).map(([id, { total }]) => [id, total]))
}

/** "on", "off", "to come" or "over", as its dates stand now. */
function stateOfPromotion({ id, state }: Promotion, { prepared, now }: RequestContext): string {
  const schedule = prepared.terms.promotions.find(({ rule }) => rule.id === id)?.schedule
  const when = schedule && matchWhen(schedule, now)
  if (state === 'off' || !when || when.matches) return state
  return when.because === 'over' ? 'over' : when.because === 'not-yet' ? 'to come' : state
}

/** What a table of each kind shows beside the name. */
export const COLUMNS: ColumnsOfKind = {
  settings: [{ title: 'Currency', cell: ({ currency }) => currency }],
  account: [
    { title: 'Groups', cell: ({ groups }, { prepared }) => names(groups, prepared.store.group) },
    { title: 'Place', cell: ({ city, country }) => [city, country].filter(Boolean).join(', ') },
    { title: 'Tags', cell: ({ tags }) => tags.join(', ') },
    {
      title: 'Contracts',
      cell: (account, { prepared }) =>
        [...prepared.store.contract.values()]
          .filter((contract) => isPartyTo(contract, accountFacts(prepared.store.group, account)))
          .map((contract) => contract.code)
          .join(', '),
    },
    { title: 'Pays in', cell: ({ currency }) => currency ?? '' },
  ],
  group: [
    { title: 'Kind', cell: ({ trade }) => (trade ? 'trade' : 'consumer') },
    {
      title: 'Accounts',
      cell: ({ id }, { prepared }) =>
        String([...prepared.store.account.values()].filter(({ groups }) => groups.includes(id)).length),
    },
    {
      title: 'Price lists',
      cell: ({ id }, { prepared }) =>
        [...prepared.store['price-list'].values()]
          .filter(({ audience }) =>
            audience.include.some((term) => term.kind === 'group' && term.group === id),
          )
          .map(({ name }) => name)
          .join(', '),
    },
  ],
  contract: [
    {
      title: 'Binds',
      cell: ({ accounts, groups }, { prepared }) =>
        [names(accounts, prepared.store.account), names(groups, prepared.store.group)]
          .filter(Boolean)
          .join(', '),
    },
    { title: 'Period', cell: ({ from, to }) => spanPhrase(from, to) },
    { title: 'Price lists', cell: ({ lists }, { prepared }) => names(lists, prepared.store['price-list']) },
    { title: 'State', cell: ({ state, isProtected }) => (isProtected ? `${state}, protected` : state) },
  ],
  currency: [
    { title: 'Rate', cell: ({ id }, requestContext) => currentRate(requestContext, id) },
    { title: 'Fee', cell: ({ fee }) => `${fee} %` },
    {
      title: 'Own amounts',
      cell: ({ code }, { prepared }) =>
        `${[...prepared.store.product.values(), ...prepared.store.variant.values()].filter(({ ownAmounts }) => code in ownAmounts).length} set`,
    },
  ],
  region: [
    {
      title: 'Countries',
      cell: ({ countries, isDefault }) => (isDefault ? 'the rest' : countries.join(', ')),
    },
    { title: 'Pays in', cell: ({ currency }, { pricingContext }) => currency ?? pricingContext.currency },
    { title: 'Prices', cell: ({ taxDisplay }) => DISPLAY_WORDS[taxDisplay] },
  ],
  channel: [
    { title: 'Groups', cell: ({ groups }) => groups.join(', ') },
    { title: 'Gate', cell: ({ gate }) => GATE_WORDS[gate] },
    { title: 'Sells', cell: ({ assortment }) => (assortment ? 'an assortment' : 'everything') },
  ],
  'tax-class': [
    {
      title: 'Products and variants',
      count: ({ prepared: { store } }) => {
        const counts = new Map<string, number>()
        for (const record of [...store.product.values(), ...store.variant.values()])
          if (record.taxClass !== null) counts.set(record.taxClass, (counts.get(record.taxClass) ?? 0) + 1)
        return counts
      },
    },
    {
      title: 'Rates',
      cell: ({ id }, { prepared }) =>
        String([...prepared.store['tax-rate'].values()].filter(({ taxClass }) => taxClass === id).length),
    },
  ],
  tax: [
    {
      title: 'Calculated on top of',
      cell: ({ upon }, { prepared }) => names(upon, prepared.store.tax) || 'the net',
    },
    { title: 'Delivery', cell: ({ onDelivery }) => (onDelivery ? 'taxed too' : 'not taxed') },
    {
      title: 'Rates',
      cell: ({ id }, { prepared }) =>
        String([...prepared.store['tax-rate'].values()].filter(({ tax }) => tax === id).length),
    },
  ],
  limit: [
    { title: 'What', cell: ({ scope }, { prepared }) => whatSentence(scope, prepared.store) },
    { title: 'Who', cell: ({ audience }, { prepared }) => whoSentence(audience, prepared.store) },
    { title: 'Limit', cell: (rule) => limitPhrase(rule) },
    { title: 'State', cell: ({ state }) => state },
  ],
  'access-rule': [
    { title: 'Who', cell: ({ audience }, { prepared }) => whoSentence(audience, prepared.store) },
    { title: 'What', cell: ({ scope }, { prepared }) => whatSentence(scope, prepared.store) },
    { title: 'Effect', cell: ({ effect }) => EFFECT_WORDS[effect] },
    { title: 'When', cell: ({ schedule }) => whenSentence(schedule) },
    { title: 'State', cell: ({ state }) => state },
  ],
  passcode: [
    { title: 'Passcode', cell: ({ word }) => word },
    {
      title: 'Opens',
      cell: ({ channel }, { prepared }) =>
        channel === null ? 'every channel' : (prepared.store.channel.get(channel)?.name ?? channel),
    },
    { title: 'Period', cell: ({ from, to }) => spanPhrase(from, to) },
    { title: 'Who has it', cell: ({ isReview }) => (isReview ? 'sees everything' : 'comes in') },
  ],
  promotion: [
    { title: 'Kind', cell: ({ value }) => PROMOTION_KIND_NAMES[value.kind] },
    { title: 'Offer', cell: ({ value }, { prepared }) => promotionPhrase(prepared.store, value) },
    { title: 'What', cell: ({ scope }, { prepared }) => whatSentence(scope, prepared.store) },
    {
      title: 'Who and where',
      cell: ({ audience, place }, { prepared }) => {
        const where = whereSentence(place, prepared.store)
        return `${whoSentence(audience, prepared.store)}${where === 'everywhere' ? '' : `, ${where}`}`
      },
    },
    { title: 'When', cell: ({ schedule }) => whenSentence(schedule) },
    { title: 'Priority', cell: ({ rank }) => String(rank) },
    { title: 'Used', count: usesOfPromotions },
    { title: 'State', cell: stateOfPromotion },
  ],
  proof: [
    { title: 'What must be true', cell: (proof, { prepared }) => proofSentence(proof, prepared.store) },
    { title: 'State', cell: ({ state }) => state },
  ],
  adjustment: [
    {
      title: 'Moves',
      cell: ({ method, target }) =>
        `${method.kind === 'percent' ? `${method.percent} %` : method.amount} on the ${target === 'base' ? 'base price' : 'price shown'}`
          .replace(/^(?=\d)/, '+')
          .replace('-', '−'),
    },
    { title: 'What', cell: ({ scope }, { prepared }) => whatSentence(scope, prepared.store) },
    { title: 'Who', cell: ({ audience }, { prepared }) => whoSentence(audience, prepared.store) },
    { title: 'When', cell: ({ schedule }) => whenSentence(schedule) },
    { title: 'State', cell: ({ state }) => state },
  ],
  'price-family': [
    {
      title: 'Products',
      cell: ({ id }, { prepared }) =>
        String([...prepared.store.product.values()].filter(({ family }) => family === id).length),
    },
  ],
  extra: [
    { title: 'Goes with', cell: ({ scope }, { prepared }) => whatSentence(scope, prepared.store) },
    { title: 'Base price', cell: ({ basePrice }) => basePrice ?? 'none' },
  ],
  product: [
    { title: 'Code', cell: ({ code }) => code },
    {
      title: 'Categories',
      cell: ({ categories }, { prepared }) => names(categories, prepared.store.category),
    },
    { title: 'Base price', cell: ({ basePrice }) => basePrice ?? 'none' },
  ],
  variant: [
    {
      title: 'Product',
      cell: ({ product }, { prepared }) => prepared.store.product.get(product)?.name ?? '',
    },
    { title: 'Options', cell: ({ options }) => Object.values(options).join(', ') },
    {
      title: 'Priced by',
      cell: ({ id }, { prepared, pricingContext }) => {
        const number = prepared.index.numberOf.get(id)
        if (number === undefined) return ''
        return findPrice(prepared, pricingContext, number).entry?.compiled.list.name ?? 'base price'
      },
    },
  ],
  'price-list': [
    { title: 'For', cell: ({ audience }, { prepared }) => whoSentence(audience, prepared.store) },
    { title: 'Where', cell: ({ place }, { prepared }) => whereSentence(place, prepared.store) },
    { title: 'When', cell: ({ schedule }) => whenSentence(schedule) },
    {
      title: 'All other items',
      cell: ({ defaultLine, currency }) =>
        defaultLine ? breaksPhrase(defaultLine, (amount) => `${currency} ${amount}`) : '',
    },
  ],
}
