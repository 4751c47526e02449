import 'server-only'

import { rateTable } from '@/core/currency/currency'
import { standpoint } from '@/core/engine/standpoint'
import { toInstant } from '@/core/predicates/when'
import { isOwnRung, type Rung } from '@/core/price/ladder'
import { getSettings, type RecordOfKind, type Store } from '@/core/store/store'
import { type Outlook, situationOf } from '@/server/engine/look-from'
import { formatMoney } from '@/ui/format/amount'
import { localPhrase, whenSentence } from '@/ui/format/rule-phrases'
import { roundPrice } from '@/core/decimal/rounding'
import { findConversion } from '@/core/currency/currency'
import { toFraction } from '@/core/decimal/fraction'
import { toMinorUnit } from '@/core/decimal/rounding'
import { adjustmentMoves } from './adjustment-moves'
import type { Fields } from './field-rule'
import type { RateChart, RecordView, RelatedTable } from './record-view'
import type { EditableKind } from './sections'
import { recordHref } from '@/ui/frame/record-href'

const DAY = 86_400_000
/** How long before its end a contract is flagged. */
const NEAR_END = 45 * DAY
const EXAMPLES = 5

/** What is worth knowing about a record at once. */
export function flagOf({ prepared, situation }: Outlook, kind: EditableKind, record: Fields): string {
  const { store } = prepared
  if (kind === 'currency') {
    const { id, ageLimit } = record as unknown as RecordOfKind['currency']
    const rate = latestRate(store, id, situation.at)
    if (!rate) return 'no rate'
    const age = Math.floor((situation.at - Date.parse(rate.from)) / DAY)
    return ageLimit !== null && age > ageLimit ? `rate is ${age} days old` : ''
  }
  if (kind !== 'contract') return ''
  const { state, to } = record as unknown as RecordOfKind['contract']
  if (state !== 'active' || to === null) return ''
  const left = toInstant(to, getSettings(store).timeZone) - situation.at
  if (left <= 0) return 'over'
  return left < NEAR_END ? `ends in ${Math.ceil(left / DAY)} days` : ''
}

/** Where to look next. */
export function linksOf(store: Store, kind: EditableKind, record: Fields): RecordView['links'] {
  const code = String(record['code'])
  if (kind === 'account') return [{ name: 'What do they pay?', href: '/board', as: `account:${code}` }]
  if (kind === 'group') return [{ name: 'What do they pay?', href: '/board', as: `group:${code}` }]
  if (kind === 'contract') {
    const { accounts, groups } = record as unknown as RecordOfKind['contract']
    const parties = [
      ...accounts.map((id) => ['account', store.account.get(id)] as const),
      ...groups.map((id) => ['group', store.group.get(id)] as const),
    ]
    return parties.flatMap(([party, found]) =>
      found
        ? [{ name: `What does ${found.name} pay?`, href: '/board', as: `${party}:${found.code}` as const }]
        : [],
    )
  }
  if (kind === 'price-list') return [{ name: 'Its lines', href: recordHref('price-lists', code), as: null }]
  if (kind === 'product')
    return [{ name: 'Its variants and prices', href: recordHref('products', code), as: null }]
  return []
}

/** Other records that belong to the story of one. */
export function relatedOf(outlook: Outlook, kind: EditableKind, record: Fields): readonly RelatedTable[] {
  const { store } = outlook.prepared
  const id = String(record['id'])
  switch (kind) {
    case 'account':
      return [ladderOf(outlook, { kind: 'account', account: id })]
    case 'group':
      return [
        ladderOf(outlook, { kind: 'group', group: id }),
        {
          title: 'Accounts',
          about: 'Who is in the group.',
          rows: [...store.account.values()]
            .filter(({ groups }) => groups.includes(id))
            .map(({ name, code, city, country }) => ({
              title: name,
              about: [city, country].filter(Boolean).join(', '),
              href: recordHref('accounts', code),
            })),
        },
      ]
    case 'contract':
      return [
        {
          title: 'Price lists, the first asked first',
          about: 'What no list here has a price for is asked on the rest of the buyer’s ladder.',
          rows: (record as unknown as RecordOfKind['contract']).lists.map((list) => {
            const found = store['price-list'].get(list)
            return {
              title: found?.name ?? list,
              about: found ? `${found.currency}, ${found.state}, ${whenSentence(found.schedule)}` : '',
              href: found ? recordHref('price-lists', found.code) : null,
            }
          }),
        },
      ]
    case 'adjustment':
      return [adjustmentMoves(outlook, record as unknown as RecordOfKind['adjustment'])]
    case 'currency':
      return [examplesOf(outlook, id), ratesOf(store, id)]
    default:
      return []
  }
}

const RUNG_WORDS: Readonly<Record<Rung, string>> = {
  contract: 'by contract',
  account: 'their own',
  group: 'of their group',
  'signed-in': 'for signed-in buyers and guests',
  everyone: 'for everyone',
}

/** A buyer's ladder, top to bottom. */
function ladderOf({ prepared, situation }: Outlook, buyer: Parameters<typeof standpoint>[0]): RelatedTable {
  const found = situationOf(prepared, standpoint(buyer, situation.at))
  return {
    title: 'The ladder, top to bottom',
    about: `The first list with a price for an item decides${found.policy === 'lowest' ? ', of all that apply the lowest' : ''}. Pays in ${found.currency}.`,
    rows: [
      ...found.ladder.flat().map(({ compiled: { list }, rung, contract }) => ({
        title: list.name,
        about: contract
          ? `by contract ${contract.code}`
          : [RUNG_WORDS[rung], ...(isOwnRung(rung) ? [`rank ${list.rank}`] : [])].join(', '),
        href: recordHref('price-lists', list.code),
      })),
      { title: 'Base price', about: 'what everything falls back to', href: null },
    ],
  }
}

function latestRate(store: Store, currency: string, at: number) {
  const table = rateTable(store['exchange-rate'].values(), at)
  return table.rates.get(`${getSettings(store).currency}>${currency}`)
}

export function currentRate({ prepared, situation }: Outlook, currency: string): string {
  const rate = latestRate(prepared.store, currency, situation.at)
  return rate ? `1 ${rate.per} = ${rate.rate} ${currency} since ${dayOf(rate.from)}` : 'none'
}

function dayOf(instant: string): string {
  return localPhrase(`${instant.slice(0, 10)}T00:00`)
}

function ratesOf(store: Store, currency: string): RelatedTable {
  return {
    title: 'Rates',
    about: 'Each holds until the next, so a price as of a past day uses that day’s rate.',
    rows: [...store['exchange-rate'].values()]
      .filter((rate) => rate.currency === currency)
      .sort((left, right) => (left.from < right.from ? 1 : -1))
      .map(({ per, rate, from, source }) => ({
        title: `1 ${per} = ${rate} ${currency}`,
        about: `since ${dayOf(from)}, ${source === 'manual' ? 'entered by hand' : 'from the feed'}`,
        href: null,
      })),
  }
}

/** What fee and rounding make of some base prices today. */
function examplesOf({ prepared, situation }: Outlook, id: string): RelatedTable {
  const { store } = prepared
  const home = getSettings(store).currency
  const currency = store.currency.get(id)
  const conversion =
    currency && findConversion(rateTable(store['exchange-rate'].values(), situation.at), home, home, currency)
  const products = [...store.product.values()].filter(({ basePrice }) => basePrice !== null)
  const step = Math.max(1, Math.floor(products.length / EXAMPLES))
  return {
    title: 'Live examples',
    about: 'Base prices of five products, converted with fee and rounding as they stand.',
    rows: products
      .filter((_, at) => at % step === 0)
      .slice(0, EXAMPLES)
      .map(({ name, code, basePrice, ownAmounts }) => {
        const own = ownAmounts[id]?.basePrice ?? null
        const amount = toFraction(basePrice ?? ('0' as never))
        const converted =
          conversion &&
          roundPrice(
            {
              numerator: amount.numerator * conversion.factor.numerator,
              denominator: amount.denominator * conversion.factor.denominator,
            },
            currency.rounding ?? toMinorUnit(currency.priceDigits),
          )
        const text = own ?? converted ?? null
        return {
          title: name,
          about: `${formatMoney(basePrice ?? ('0' as never), home, 2)} → ${text === null ? 'no rate' : formatMoney(text, id, currency?.priceDigits ?? 2)}${own === null ? '' : ', set by itself'}`,
          href: recordHref('products', code),
        }
      }),
  }
}

/** The rates of a currency over time, for drawing. */
export function rateChart(store: Store, currency: string): RateChart {
  return {
    title: `${currency} for 1 ${getSettings(store).currency}`,
    points: [...store['exchange-rate'].values()]
      .filter((rate) => rate.currency === currency)
      .sort((left, right) => (left.from < right.from ? -1 : 1))
      .map(({ from, rate }) => ({ at: from, value: Number(rate) })),
  }
}
