import 'server-only'

import type { WhatTerm } from '@/core/predicates/what'
import type { WhereTerm } from '@/core/predicates/where'
import type { WhoTerm } from '@/core/predicates/who'
import type { Store } from '@/core/store/store'
import { breaksPhrase } from '@/ui/format/rule-phrases'
import { recordHref } from '@/ui/frame/record-href'

/** A rule, list or line that names a record. */
export interface Mention {
  readonly name: string
  readonly href: string
  readonly about: string
}

/** Everything that names something of the catalogue in what it is for. */
export function mentionsOfItem(store: Store, isIt: (term: WhatTerm) => boolean): readonly Mention[] {
  const holds = ({
    include,
    exclude,
  }: {
    readonly include: readonly WhatTerm[]
    readonly exclude: readonly WhatTerm[]
  }) => include.some(isIt) || exclude.some(isIt)
  return [
    ...[...store['price-line'].values()].flatMap((line) => {
      const list = store['price-list'].get(line.list)
      return list && holds(line.scope)
        ? [
            {
              name: list.name,
              href: recordHref('price-lists', list.code),
              about: breaksPhrase(
                line,
                (amount) => `${list.currency} ${amount}`,
                (id) => store['price-list'].get(id)?.name ?? id,
              ),
            },
          ]
        : []
    }),
    ...scoped(store, 'adjustment', 'adjustments', 'adjustment', holds),
    ...scoped(store, 'limit', 'limits', 'limit', holds),
    ...scoped(store, 'access-rule', 'access-rules', 'access rule', holds),
    ...scoped(store, 'price-list', 'price-lists', 'part of the catalogue of a list', holds),
  ]
}

function scoped(
  store: Store,
  kind: 'adjustment' | 'limit' | 'access-rule' | 'price-list',
  path: string,
  about: string,
  holds: (scope: { readonly include: readonly WhatTerm[]; readonly exclude: readonly WhatTerm[] }) => boolean,
): readonly Mention[] {
  return [...store[kind].values()].flatMap(({ name, code, scope }) =>
    holds(scope) ? [{ name, href: recordHref(path, code), about }] : [],
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
