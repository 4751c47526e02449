import 'server-only'

import type { Store } from '@/core/store/store'
import type { Database } from '@/server/database/database'
import { shownProducts } from '@/server/engine/catalogue-order'
import { findOrder } from '@/server/orders/order-rows'
import { findQuote } from '@/server/quotes/quote-rows'
import { quoteName } from '@/ui/format/quote-phrases'
import { recordHref } from '@/ui/frame/record-href'

/** Something the palette can go to. */
interface Found {
  readonly kind: string
  readonly title: string
  readonly about: string
  /** A page; or, for somebody to look as, their code. */
  readonly to: string
}

/** What was found, and for which words: a slow answer must not be taken for that to words typed since. */
export interface FoundRecords {
  readonly words: string
  readonly found: readonly Found[]
}

const MOST_OF_A_KIND = 8

/** Other kinds with a sheet of their own: what one is called, and where its sheet is. */
const OTHERS = [
  ['contract', 'Contract', 'contracts'],
  ['tax', 'Tax', 'tax-names'],
  ['tax-class', 'Tax class', 'tax-classes'],
  ['limit', 'Limit', 'limits'],
  ['access-rule', 'Access rule', 'access-rules'],
  ['passcode', 'Passcode', 'passcodes'],
  ['adjustment', 'Adjustment', 'adjustments'],
  ['promotion', 'Promotion', 'promotions'],
  ['proof', 'Proof', 'proofs'],
  ['category', 'Category', 'categories'],
  ['channel', 'Channel', 'channels'],
  ['region', 'Region', 'regions'],
] as const

/** The order or quote of a number, where that is what was typed. */
export async function findOrders(
  database: Pick<Database, 'select'>,
  text: string,
): Promise<readonly Found[]> {
  const asked = /^q-?(\d{4,9})$/i.exec(text.trim())
  const quote = asked ? await findQuote(database, Number(asked[1])) : null
  if (quote)
    return [
      {
        ...{ kind: 'Quote', title: `Quote ${quoteName(quote.number)}` },
        ...{ about: quote.request.buyer, to: `/quotes/${quote.number}` },
      },
    ]
  const order = /^\d{4,9}$/.test(text.trim()) ? await findOrder(database, Number(text)) : null
  if (!order) return []
  const { number, document } = order
  return [{ kind: 'Order', title: `Order ${number}`, about: document.buyer, to: `/orders/${number}` }]
}

/** Records whose name or code holds all the words. */
export function findRecords(store: Store, text: string): readonly Found[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean)
  const holds = (...texts: string[]) => words.every((word) => texts.join(' ').toLowerCase().includes(word))
  const first = <Item>(items: Iterable<Item>, wanted: (item: Item) => boolean) =>
    [...items].filter(wanted).slice(0, MOST_OF_A_KIND)

  return [
    ...shownProducts(store, { category: null, text })
      .slice(0, MOST_OF_A_KIND)
      .map(({ product }) => ({
        kind: 'Product',
        title: product.name,
        about: product.code,
        to: recordHref('products', product.code),
      })),
    ...first(store['price-list'].values(), ({ name, code }) => holds(name, code)).map(
      ({ name, code, purpose }) => ({
        kind: 'Price list',
        title: name,
        about: purpose,
        to: recordHref('price-lists', code),
      }),
    ),
    ...OTHERS.flatMap(([kind, word, path]) =>
      first<{ readonly name: string; readonly code: string }>(store[kind].values(), ({ name, code }) =>
        holds(name, code),
      ).map(({ name, code }) => ({ kind: word, title: name, about: code, to: recordHref(path, code) })),
    ),
    ...first(store.group.values(), ({ name, code }) => holds(name, code)).map(({ name, code }) => ({
      kind: 'Look as',
      title: name,
      about: 'group',
      to: `group:${code}`,
    })),
    ...first(store.account.values(), ({ name, code, city }) => holds(name, code, city)).map(
      ({ name, code, city, country }) => ({
        kind: 'Look as',
        title: name,
        about: `${city}, ${country}`,
        to: `account:${code}`,
      }),
    ),
  ]
}
