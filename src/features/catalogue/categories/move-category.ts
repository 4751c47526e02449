'use server'

import { NUMBER, THING } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import { commit } from '@/server/changes/commit'
import { toRefusal } from '@/server/changes/to-refusal'
import { currentInstant } from '@/server/clock'
import { currentView } from '@/server/views/current-view'
import { currentAuthor } from '@/server/session/author'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { refresh } from 'next/cache'
import { requestsToMove } from './category-move'
import type { PendingMove } from './category-tree-view'

/** Moves a category; resolves to what is wrong, or `null`. `asOf` is the change set the tree shows. */
export const moveCategory = merchantAction(
  'drafts:edit',
  [THING, NUMBER],
  async (move: PendingMove, asOf: number): Promise<string | null> => {
    const view = await currentView()
    const { store } = view.prepared
    const category = store.category.get(move.id)
    if (!category) return 'There is no such category any more.'
    const to = move.place.parent === null ? null : store.category.get(move.place.parent)
    if (to === undefined) return 'There is no such category to move it into any more.'
    let requests
    try {
      requests = await requestsToMove(view, store, move, asOf)
    } catch (error) {
      if (error instanceof RangeError) return 'The tree has changed meanwhile. Move it again.'
      throw error
    }
    const outcome = await commit(view, requests, {
      author: await currentAuthor(),
      note: `${category.name} moved to ${to?.name ?? 'the top'}`,
      at: currentInstant(),
    })
    if (outcome.ok) {
      refresh()
      return null
    }
    const refusal = toRefusal(outcome)
    return refusal.code === 'nothing-to-change' ? null : refusalSentence(refusal)
  },
)
