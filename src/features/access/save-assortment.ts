'use server'

import { FLAG, NUMBER, thingWith, TYPED } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import type { Assortment, AssortmentTerm } from '@/core/access/assortment'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { findNearest } from '@/core/issue/issue'
import { commit } from '@/server/changes/commit'
import type { ChangeRequest } from '@/server/changes/weigh'
import { revisionAsOf } from '@/server/views/view'
import { toRefusal } from '@/server/changes/to-refusal'
import { currentView } from '@/server/views/current-view'
import { currentAuthor } from '@/server/session/author'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import Joi from 'joi'
import type { AssortmentOwner } from './load-assortments'
import { currentInstant } from '@/server/clock'

/** One click on the tree: how it starts, or what is set on a branch, product or variant; `null` takes the setting away. */
export type AssortmentEdit =
  | { readonly kind: 'start'; readonly start: Assortment['start'] }
  | { readonly kind: 'set'; readonly term: AssortmentTerm; readonly holds: boolean | null }
  | { readonly kind: 'name'; readonly typed: string; readonly holds: boolean }

const OWNER = thingWith({
  kind: Joi.valid('channel', 'contract'),
  code: TYPED,
  name: TYPED,
})
const TERM = thingWith({
  kind: Joi.valid('category', 'product', 'variant'),
  ...{ category: TYPED.optional(), product: TYPED.optional(), variant: TYPED.optional() },
})
const EDIT = Joi.alternatives(
  thingWith({ kind: Joi.valid('start'), start: Joi.valid('everything', 'nothing') }),
  thingWith({ kind: Joi.valid('set'), term: TERM, holds: FLAG.allow(null) }),
  thingWith({ kind: Joi.valid('name'), typed: TYPED, holds: FLAG }),
)

/** Resolves to what is wrong; `null` when it was taken. `asOf` is the change set the tree shows. */
export const editAssortment = merchantAction(
  'drafts:edit',
  [OWNER, EDIT, NUMBER],
  async (owner: AssortmentOwner, edit: AssortmentEdit, asOf: number): Promise<string | null> => {
    const view = await currentView()
    const { store } = view.prepared
    const record = findByCode<{
      readonly id: string
      readonly code: string
      readonly assortment: Assortment | null
    }>(store[owner.kind], owner.code)
    if (!record) return `${owner.name} is gone. Reload the page.`
    const before = record.assortment ?? { start: 'everything', include: [], exclude: [] }
    let next: Assortment
    if (edit.kind === 'start') next = { ...before, start: edit.start }
    else if (edit.kind === 'set') next = withTerm(before, edit.term, edit.holds)
    else {
      const term = named(edit.typed.trim())
      if (typeof term === 'string') return term
      next = withTerm(before, term, edit.holds)
    }
    const isPlain = next.start === 'everything' && next.include.length + next.exclude.length === 0
    const request = {
      kind: owner.kind,
      id: record.id,
      seen: revisionAsOf(view, owner.kind, record.id, asOf),
      after: { ...record, assortment: isPlain ? null : next },
    } as unknown as ChangeRequest
    const outcome = await commit(view, [request], {
      author: await currentAuthor(),
      note: `${owner.name}: assortment changed`,
      at: currentInstant(),
    })
    if (outcome.ok) return null
    const refusal = toRefusal(outcome)
    return refusal.code === 'nothing-to-change' ? null : refusalSentence(refusal)

    function named(typed: string): AssortmentTerm | string {
      const product = findByCode(store.product, typed)
      if (product) return { kind: 'product', product: product.id }
      const variant = findBySku(store.variant, typed)
      if (variant) return { kind: 'variant', variant: variant.id }
      const nearest = findNearest(
        typed,
        [...store.product.values()].map(({ code }) => code),
      )
      return `There is no product or SKU “${typed}”.${nearest ? ` Did you mean ${nearest}?` : ''}`
    }
  },
)

function withTerm(assortment: Assortment, term: AssortmentTerm, holds: boolean | null): Assortment {
  const others = (terms: readonly AssortmentTerm[]) => terms.filter((each) => idOf(each) !== idOf(term))
  const include = others(assortment.include)
  const exclude = others(assortment.exclude)
  return {
    ...assortment,
    include: holds === true ? [...include, term] : include,
    exclude: holds === false ? [...exclude, term] : exclude,
  }
}

function idOf(term: AssortmentTerm): string {
  switch (term.kind) {
    case 'category':
      return `category/${term.category}`
    case 'product':
      return `product/${term.product}`
    case 'variant':
      return `variant/${term.variant}`
  }
}
