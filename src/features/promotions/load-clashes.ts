import 'server-only'

import type { Product, Variant } from '@/core/catalogue/product'
import { type Clash, findClashes } from '@/core/engine/promoted/find-clashes'
import type { Promotion } from '@/core/promotions/promotion'
import { Slices } from '@/server/doors/slices'
import type { RequestContext } from '@/server/engine/request-context'
import { promotionPhrase } from '@/ui/format/promotion-phrases'
import { whenSentence, whoSentence } from '@/ui/format/rule-phrases'
import { recordHref } from '@/ui/frame/record-href'

interface ClashParty {
  readonly name: string
  readonly href: string
  readonly rank: number
  readonly offer: string
  /** "everyone, always". */
  readonly about: string
}

export interface ClashView {
  readonly first: ClashParty
  readonly then: ClashParty
  readonly count: number
  /** Some of what is in both. */
  readonly some: string
  readonly outcome: Clash['outcome']
}

/** Which promotions can take the same units, and who of them does. */
export async function loadClashes({ prepared, now }: RequestContext): Promise<readonly ClashView[]> {
  const { store, index } = prepared
  const clashes = await new Slices().run(findClashes(prepared, now))
  const party = (promotion: Promotion): ClashParty => ({
    name: promotion.name,
    href: recordHref('promotions', promotion.code),
    rank: promotion.rank,
    offer: promotionPhrase(store, promotion.value),
    about: [whoSentence(promotion.audience, store), whenSentence(promotion.schedule)]
      .filter((words) => words !== 'everyone' && words !== 'always')
      .join(', '),
  })
  const nameOf = (number: number) => {
    const { product } = store.variant.get(index.items[number] as string) as Variant
    return (store.product.get(product) as Product).name
  }
  return clashes.map(({ first, then, count, some, outcome }) => ({
    first: party(first),
    then: party(then),
    count,
    some: [...new Set(some.map(nameOf))].join(', '),
    outcome,
  }))
}
