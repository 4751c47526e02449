import 'server-only'

import { findPrice } from '@/core/engine/find-price'
import type { RecordOfKind } from '@/core/store/store'
import type { Outlook } from '@/server/engine/look-from'
import {
  breaksPhrase,
  whatSentence,
  whenSentence,
  whereSentence,
  whoSentence,
  spanPhrase,
} from '@/ui/format/rule-phrases'
import { currentRate } from './record-story'
import type { EditableKind } from './sections'

interface Column<Kind extends EditableKind> {
  readonly title: string
  readonly cell: (record: RecordOfKind[Kind], outlook: Outlook) => string
}

type ColumnsOfKind = { readonly [Kind in EditableKind]: readonly Column<Kind>[] }

const names = (ids: readonly string[], records: ReadonlyMap<string, { readonly name: string }>) =>
  ids.map((id) => records.get(id)?.name ?? id).join(', ')

/** What a table of each kind shows beside the name. */
export const COLUMNS: ColumnsOfKind = {
  settings: [{ title: 'Currency', cell: ({ currency }) => currency }],
  account: [
    { title: 'Groups', cell: ({ groups }, { prepared }) => names(groups, prepared.store.group) },
    { title: 'Place', cell: ({ city, country }) => [city, country].filter(Boolean).join(', ') },
    { title: 'Tags', cell: ({ tags }) => tags.join(', ') },
    {
      title: 'Contracts',
      cell: ({ id }, { prepared }) =>
        [...prepared.store.contract.values()]
          .filter(({ accounts }) => accounts.includes(id))
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
    { title: 'Rate', cell: ({ id }, outlook) => currentRate(outlook, id) },
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
    { title: 'Pays in', cell: ({ currency }, { situation }) => currency ?? situation.currency },
    { title: 'Prices', cell: ({ taxDisplay }) => (taxDisplay === 'gross' ? 'with tax' : 'without tax') },
  ],
  channel: [{ title: 'Groups', cell: ({ groups }) => groups.join(', ') }],
  adjustment: [
    {
      title: 'Moves',
      cell: ({ method, target }) =>
        `${method.kind === 'percent' ? `${method.percent} %` : method.amount} on the ${target === 'base' ? 'base price' : 'price shown'}`.replace(
          /^(?=\d)/,
          '+',
        ),
    },
    { title: 'What', cell: ({ scope }, { prepared }) => whatSentence(scope, prepared.store) },
    { title: 'Who', cell: ({ audience }, { prepared }) => whoSentence(audience, prepared.store) },
    { title: 'When', cell: ({ schedule }) => whenSentence(schedule) },
    { title: 'State', cell: ({ state }) => state },
  ],
  category: [
    {
      title: 'Below',
      cell: ({ parent }, { prepared }) => (parent ? (prepared.store.category.get(parent)?.name ?? '') : ''),
    },
    {
      title: 'Products',
      cell: ({ id }, { prepared }) =>
        String(
          [...prepared.store.product.values()].filter(({ categories }) => categories.includes(id)).length,
        ),
    },
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
      cell: ({ id }, { prepared, situation }) => {
        const number = prepared.index.numberOf.get(id)
        if (number === undefined) return ''
        return findPrice(prepared, situation, number).entry?.compiled.list.name ?? 'base price'
      },
    },
  ],
  'price-list': [
    { title: 'For', cell: ({ audience }, { prepared }) => whoSentence(audience, prepared.store) },
    { title: 'Where', cell: ({ place }, { prepared }) => whereSentence(place, prepared.store) },
    { title: 'When', cell: ({ schedule }) => whenSentence(schedule) },
    {
      title: 'Everything else',
      cell: ({ defaultLine, currency }) =>
        defaultLine ? breaksPhrase(defaultLine, (amount) => `${currency} ${amount}`) : '',
    },
  ],
}
