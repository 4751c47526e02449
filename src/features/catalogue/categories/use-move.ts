'use client'

import { placeOf, stepped, type TreePlace, type TreeStep } from '@/core/catalogue/move-category'
import { NO_ANSWER } from '@/ui/format/no-answer'
import { useFrame } from '@/ui/frame/frame-context'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import type { CategoryTreeView, PendingMove, TreeCategory } from './category-tree-view'
import { moveCategory } from './move-category'
import { moveToUrl } from './move-in-url'

/** A move being weighed: where it would stand, kept in the address until it is made or put back. */
export function useMove(view: CategoryTreeView, byId: ReadonlyMap<string, TreeCategory>) {
  const { href } = useFrame()
  const router = useRouter()
  const [isBusy, begin] = useTransition()
  const [move, setMove] = useState(view.move)
  const [problem, setProblem] = useState<string | null>(null)
  const weigh = (next: PendingMove | null) => {
    setMove(next)
    setProblem(null)
    const fields = new URLSearchParams(moveToUrl(next, view.categories)).toString()
    begin(() => router.replace(href(`/categories${fields === '' ? '' : `?${fields}`}`), { scroll: false }))
  }
  const to = (id: string, place: TreePlace) => {
    const now = placeOf(byId, id)
    const isBack = now.parent === place.parent && now.before === place.before
    weigh(isBack ? null : { id, place, keepsPrices: move?.id === id && move.keepsPrices })
  }
  return {
    move,
    problem,
    isBusy,
    to,
    putBack: () => weigh(null),
    keepPrices: (keepsPrices: boolean) => move && weigh({ ...move, keepsPrices }),
    step: (id: string, step: TreeStep) => {
      const place = stepped(byId, id, move?.id === id ? move.place : placeOf(byId, id), step)
      if (place) to(id, place)
      return place
    },
    make: () =>
      begin(async () => {
        if (!move) return
        const wrong = await moveCategory(move, view.asOf).catch(() => NO_ANSWER)
        setProblem(wrong)
        if (wrong !== null) return
        // After waiting it is a transition of its own: the tree is busy until it shows what was made.
        begin(() => {
          setMove(null)
          router.replace(href('/categories'), { scroll: false })
        })
      }),
  }
}
