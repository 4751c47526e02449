'use client'

import type { Vantage } from '@/core/engine/context/vantage'
import { useFrame } from '@/ui/frame/frame-context'
import { serializeVantage } from '@/ui/frame/vantage-url'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { type BoardBlocks, layOutRows, patchBlocks } from './board-rows'
import { type BoardFilter, serializeBoardFilter } from './board-url'
import { BLOCK_SIZE, type BoardPatch, type BoardProduct, type BoardView } from '../board-view'

/** The board's rows as they come into sight, open and close, and change. */
export function useBoardRows(view: BoardView, filter: BoardFilter) {
  const { vantage, scrubbed } = useFrame()
  const [blocks, setBlocks] = useState<BoardBlocks>(() => firstBlocks(view))
  const [closed, setClosed] = useState<ReadonlySet<number>>(new Set())
  const filterText = serializeBoardFilter(filter).toString()
  const [shown, setShown] = useState({ view, filterText })
  // Another vantage or filter brings another view: what was read for the old one is not for this one.
  if (shown.view !== view) {
    setShown({ view, filterText })
    setBlocks(firstBlocks(view))
    if (shown.filterText !== filterText) setClosed(new Set())
  }

  const asked = useRef({ view, blocks: new Set([0]) })
  const version = useRef(0)
  const [staleBlocks, setStaleBlocks] = useState(0)
  const rows = useMemo(() => layOutRows(view.counts, closed), [view.counts, closed])

  const readBlock = useCallback(
    async (block: number) => {
      if (asked.current.view !== view) asked.current = { view, blocks: new Set([0]) }
      const reading = asked.current
      if (reading.blocks.has(block)) return
      reading.blocks.add(block)
      const asOf = version.current
      const products = await fetchProducts(vantage, filter, { from: block * BLOCK_SIZE, count: BLOCK_SIZE })
      if (!products) return void reading.blocks.delete(block)
      if (asked.current !== reading) return
      // Rows asked for before a change and read after it would put old figures back.
      if (version.current !== asOf) {
        reading.blocks.delete(block)
        return void setStaleBlocks((count) => count + 1)
      }
      setBlocks((before) => new Map(before).set(block, products))
    },
    [view, vantage, filter],
  )

  /** Reads every row that is not here yet; resolves when all are. */
  const readAll = useCallback(async () => {
    for (let block = 0; block * BLOCK_SIZE < view.counts.length; block += 1) await readBlock(block)
  }, [view.counts.length, readBlock])

  const visible = useRef({ first: 0, last: 0 })
  const onVisible = useCallback(
    (first: number, last: number) => {
      visible.current = { first, last }
      const from = rows[first]?.product ?? 0
      const to = rows[last]?.product ?? from
      for (let block = Math.floor(from / BLOCK_SIZE); block <= Math.floor(to / BLOCK_SIZE); block += 1)
        void readBlock(block)
    },
    [rows, readBlock],
  )
  useEffect(() => {
    if (staleBlocks > 0) onVisible(visible.current.first, visible.current.last)
  }, [staleBlocks, onVisible])

  const applyPatch = useCallback(
    (patch: BoardPatch) => {
      version.current += 1
      if (patch.kind === 'variants') return setBlocks((before) => patchBlocks(before, patch))
      asked.current = { view, blocks: new Set() }
      onVisible(visible.current.first, visible.current.last)
    },
    [view, onVisible],
  )

  const toggle = useCallback((product: number) => {
    setClosed((before) => {
      const after = new Set(before)
      if (!after.delete(product)) after.add(product)
      return after
    })
  }, [])
  const setAllClosed = useCallback(
    (close: boolean) => setClosed(new Set(close ? view.counts.keys() : [])),
    [view.counts],
  )

  const standing = (product: number) => blocks.get(Math.floor(product / BLOCK_SIZE))?.[product % BLOCK_SIZE]
  const passing = usePassingRows(view, filter, scrubbed, standing, () => {
    const { first, last } = visible.current
    return [rows[first]?.product ?? 0, rows[last]?.product ?? 0]
  })
  const productAt = (product: number) => passing?.products[product - passing.from] ?? standing(product)
  return { rows, productAt, onVisible, readAll, applyPatch, toggle, setAllClosed, anyClosed: closed.size > 0 }
}

/**
 * The rows in sight as they are where somebody is just scrubbing past; `null` when nobody scrubs. One question is under
 * way at a time, and the latest place counts: a hand is quicker than a network.
 */
function usePassingRows(
  view: BoardView,
  filter: BoardFilter,
  scrubbed: Vantage | null,
  standing: (product: number) => BoardProduct | undefined,
  inSight: () => readonly [from: number, to: number],
): PassingRows | null {
  const [passing, setPassing] = useState<(PassingRows & { readonly view: BoardView }) | null>(null)
  const wanted = useRef<Vantage | null>(null)
  const isAsking = useRef(false)
  const around = useRef({ inSight, shown: standing })
  useEffect(() => {
    const shown = (product: number) => passing?.products[product - passing.from] ?? standing(product)
    around.current = { inSight, shown }
  })
  useEffect(() => {
    wanted.current = scrubbed
    if (!scrubbed || isAsking.current) return
    const follow = async () => {
      isAsking.current = true
      while (wanted.current) {
        const vantage = wanted.current
        const [from, to] = around.current.inSight()
        const products = await fetchProducts(vantage, filter, { from, count: to - from + 1 })
        if (wanted.current && products) {
          const { shown } = around.current
          setPassing({ view, from, products: products.map((each, at) => sameOr(shown(from + at), each)) })
        }
        if (wanted.current === vantage) break
      }
      isAsking.current = false
    }
    void follow()
  }, [scrubbed, view, filter])
  return scrubbed && passing?.view === view ? passing : null
}

/** A product that says the same stays the one it was, so that its rows need not be drawn again. */
function sameOr(shown: BoardProduct | undefined, read: BoardProduct): BoardProduct {
  return shown && JSON.stringify(shown) === JSON.stringify(read) ? shown : read
}

/** Products from one on, as they are where somebody scrubs past. */
interface PassingRows {
  readonly from: number
  readonly products: readonly BoardProduct[]
}

async function fetchProducts(
  vantage: Vantage,
  filter: BoardFilter,
  { from, count }: { readonly from: number; readonly count: number },
): Promise<readonly BoardProduct[] | null> {
  const fields = new URLSearchParams([...serializeVantage(vantage), ...serializeBoardFilter(filter)])
  fields.set('from', String(from))
  fields.set('count', String(count))
  const response = await fetch(`/api/board?${fields}`)
  return response.ok ? ((await response.json()) as readonly BoardProduct[]) : null
}

function firstBlocks(view: BoardView): BoardBlocks {
  return new Map([[0, view.firstBlock]])
}
