import 'server-only'

import { pathToRoot } from '@/core/catalogue/category'
import { changedAncestors } from '@/core/catalogue/move-category'
import { findRights } from '@/core/engine/rules/find-rights'
import type { WhatTerm } from '@/core/predicates/what'
import type { Store } from '@/core/store/store'
import { weigh } from '@/server/changes/weigh'
import { toRefusal } from '@/server/changes/to-refusal'
import { type RequestContext, pricingContextOf, toRequestContext } from '@/server/engine/request-context'
import { soldVariants } from '@/server/engine/sold-variants'
import { accountBuyer, type EffectBuyer, buyerContextOf, usualBuyers } from '@/sheet/effect/buyers'
import { type ChangeEffect, changeEffect } from '@/sheet/effect/change-effect'
import { type Mention, mentionsOfItems } from '@/sheet/effect/mentions'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { linesLeft, requestsToMove } from './category-move'
import type { PendingMove } from './category-tree-view'

export interface MoveEffect {
  readonly name: string
  /** Names from the top down. */
  readonly from: readonly string[]
  readonly to: readonly string[]
  /** Why it cannot be made; empty where it can. */
  readonly refusal: string
  readonly prices: ChangeEffect | null
  /** Buyers who see, see prices of, or may buy more or fewer of its variants. */
  readonly access: readonly { readonly name: string; readonly change: string }[]
  readonly left: readonly Mention[]
  readonly entered: readonly Mention[]
  /** Lines of price lists that reached it and no longer would. */
  readonly lines: number
}

/**
 * What a move of a category would change, before it is made.
 *
 * Errors  `null` for a category that is not there.
 */
export async function loadMoveEffect(
  requestContext: RequestContext,
  move: PendingMove,
): Promise<MoveEffect | null> {
  const { prepared, view } = requestContext
  const { store } = prepared
  const category = store.category.get(move.id)
  if (!category) return null
  const { left, entered } = changedAncestors(store.category, move.id, move.place)
  const [leaving, entering] = await mentionsOfItems(prepared, `move ${move.id} to ${move.place.parent}`, [
    through(left),
    through(entered),
  ])
  const about = {
    name: category.name,
    from: pathOf(store, category.parent),
    to: pathOf(store, move.place.parent),
    left: leaving,
    entered: entering,
    lines: (await linesLeft(store, move)).length,
    prices: null,
    access: [],
  }
  let requests
  try {
    requests = await requestsToMove(view, store, move, view.asOf)
  } catch (error) {
    if (error instanceof RangeError) return { ...about, refusal: 'It cannot stand there. Put it back.' }
    throw error
  }
  const weighed = await weigh(view, requests)
  if (!weighed.ok)
    return {
      ...about,
      refusal: weighed.code === 'nothing-to-change' ? '' : refusalSentence(toRefusal(weighed)),
    }
  const after = toRequestContext(
    { ...view, prepared: weighed.after },
    requestContext.vantage,
    requestContext.now,
  )
  return {
    ...about,
    refusal: '',
    prices: await changeEffect({ before: requestContext, after }),
    access: await accessChanges(requestContext, after, move.id),
  }
}

function pathOf(store: Store, id: string | null): readonly string[] {
  return id === null
    ? []
    : pathToRoot(store.category, id)
        .map(({ name }) => name)
        .reverse()
}

function through(categories: ReadonlySet<string>) {
  return (term: WhatTerm) => term.kind === 'category' && term.descendants && categories.has(term.category)
}

async function accessChanges(
  before: RequestContext,
  after: RequestContext,
  category: string,
): Promise<readonly { readonly name: string; readonly change: string }[]> {
  const items = (await soldVariants(after.prepared)).filter(({ branches }) => branches.includes(category))
  return lookers(after.prepared.store).flatMap((buyer) => {
    const look = { ...buyerContextOf(buyer, before), deliverTo: before.buyerContext.deliverTo }
    const sides = [before, after].map(({ prepared }) => {
      const pricingContext = pricingContextOf(prepared, look)
      const rights = items.flatMap(({ variant }) => {
        const number = prepared.index.numberOf.get(variant.id)
        return number === undefined ? [] : [findRights(prepared, pricingContext, number)]
      })
      const of = (right: 'see' | 'seePrice' | 'buy') => rights.filter((each) => each[right]).length
      return { see: of('see'), seePrice: of('seePrice'), buy: of('buy') }
    })
    const [was, now] = sides
    if (!was || !now) return []
    const said = [
      difference('sees', now.see - was.see),
      // Who sees more sees more prices and may buy more: only what differs from that is said.
      difference('sees prices of', now.seePrice - was.seePrice - (now.see - was.see)),
      difference('may buy', now.buy - was.buy - (now.seePrice - was.seePrice)),
    ].filter(Boolean)
    return said.length === 0 ? [] : [{ name: buyer.name, change: said.join(', ') }]
  })
}

function difference(verb: string, count: number): string {
  return count === 0 ? '' : `${verb} ${Math.abs(count)} ${count > 0 ? 'more' : 'fewer'}`
}

/** Guests, groups, and one account of each contract with an assortment: a move may take it in or out. */
function lookers(store: Store): readonly EffectBuyer[] {
  const bound = [...store.contract.values()].flatMap(({ assortment, accounts: [first] }) =>
    assortment && first !== undefined ? (accountBuyer(store, first) ?? []) : [],
  )
  return [...usualBuyers(store), ...bound]
}
