import 'server-only'

import type { What, WhatTerm } from '@/core/predicates/what'
import type { WhereTerm } from '@/core/predicates/where'
import type { WhoTerm } from '@/core/predicates/who'
import type { PriceLine, PriceList } from '@/core/price/lines/price-list'
import type { Store } from '@/core/store/store'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { Slices } from '@/server/doors/slices'
import { Remembered } from '@/server/engine/remembered'
import { breaksPhrase } from '@/ui/format/rule-phrases'
import { recordHref } from '@/ui/frame/record-href'

/** A rule, list or line that names a record. */
export interface Mention {
  readonly name: string
  readonly href: string
  readonly about: string
}

const KNOWN = new Remembered<readonly (readonly Mention[])[]>('mentions')

/**
 * Everything that names something of the catalogue in what it is for; for several things at once, in one pass over all
 * lines. `key` says what is asked: the answer is kept as long as the store stays as it is.
 */
export function mentionsOfItems<Tests extends readonly [TermTest, ...TermTest[]]>(
  prepared: PreparedStore,
  key: string,
  tests: Tests,
): Promise<MentionsOf<Tests>> {
  return KNOWN.of({ prepared }, key, () => findMentions(prepared.store, tests)) as Promise<MentionsOf<Tests>>
}

type MentionsOf<Tests> = { readonly [Test in keyof Tests]: readonly Mention[] }

async function findMentions(
  store: Store,
  tests: readonly TermTest[],
): Promise<readonly (readonly Mention[])[]> {
  const mentions = tests.map((): Mention[] => [])
  const slices = new Slices()
  for (const line of store['price-line'].values()) {
    if (slices.isDue()) await slices.rest()
    tests.forEach((isIt, at) => {
      if (!holds(line.scope, isIt)) return
      const list = store['price-list'].get(line.list)
      if (list) mentions[at]?.push(mentionOfLine(store, list, line))
    })
  }
  tests.forEach((isIt, at) => {
    mentions[at]?.push(
      ...scoped(store, 'adjustment', 'adjustments', 'adjustment', isIt),
      ...scoped(store, 'limit', 'limits', 'limit', isIt),
      ...scoped(store, 'access-rule', 'access-rules', 'access rule', isIt),
      ...scoped(store, 'promotion', 'promotions', 'promotion', isIt),
      ...scoped(store, 'price-list', 'price-lists', 'part of the catalogue of a list', isIt),
    )
  })
  return mentions
}

type TermTest = (term: WhatTerm) => boolean

function holds({ include, exclude }: What, isIt: TermTest): boolean {
  return include.some(isIt) || exclude.some(isIt)
}

function mentionOfLine(store: Store, list: PriceList, line: PriceLine): Mention {
  return {
    name: list.name,
    href: recordHref('price-lists', list.code),
    about: breaksPhrase(
      line,
      (amount) => `${list.currency} ${amount}`,
      (id) => store['price-list'].get(id)?.name ?? id,
    ),
  }
}

function scoped(
  store: Store,
  kind: 'adjustment' | 'limit' | 'access-rule' | 'promotion' | 'price-list',
  path: string,
  about: string,
  isIt: TermTest,
): readonly Mention[] {
  return [...store[kind].values()].flatMap(({ name, code, scope }) =>
    holds(scope, isIt) ? [{ name, href: recordHref(path, code), about }] : [],
  )
}

/** Every rule and list that names a buyer, or a place, in whom or where it is for. */
export function mentionsOfBuyerOrPlace(
  store: Store,
  isBuyer: (term: WhoTerm) => boolean,
  isPlace: (term: WhereTerm) => boolean,
): readonly Mention[] {
  const kinds = [
    ['price-list', 'price-lists', 'price list'],
    ['adjustment', 'adjustments', 'adjustment'],
    ['limit', 'limits', 'limit'],
    ['access-rule', 'access-rules', 'access rule'],
    ['promotion', 'promotions', 'promotion'],
  ] as const
  return kinds.flatMap(([kind, path, about]) =>
    [...store[kind].values()].flatMap(({ name, code, audience, place }) =>
      [...audience.include, ...audience.exclude].some(isBuyer) ||
      [...place.include, ...place.exclude].some(isPlace)
        ? [{ name, href: recordHref(path, code), about }]
        : [],
    ),
  )
}
