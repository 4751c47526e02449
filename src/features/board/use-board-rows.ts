'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { serializeVantage } from '@/ui/frame/vantage-url'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { type BoardBlocks, layOutRows, patchBlocks } from './board-rows'
import { type BoardFilter, serializeBoardFilter } from './board-url'
import { BLOCK_SIZE, type BoardPatch, type BoardProduct, type BoardView } from './board-view'

/** The board's rows as they come into sight, open and close, and change. */
export function useBoardRows(view: BoardView, filter: BoardFilter) {
  const { vantage } = useFrame()
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
      const fields = new URLSearchParams([...serializeVantage(vantage), ...serializeBoardFilter(filter)])
      fields.set('block', String(block))
      const response = await fetch(`/api/board?${fields}`)
      if (!response.ok) return void reading.blocks.delete(block)
      const products = (await response.json()) as readonly BoardProduct[]
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

  const productAt = (product: number) => blocks.get(Math.floor(product / BLOCK_SIZE))?.[product % BLOCK_SIZE]
  return { rows, productAt, onVisible, applyPatch, toggle, setAllClosed, anyClosed: closed.size > 0 }
}

function firstBlocks(view: BoardView): BoardBlocks {
  return new Map([[0, view.firstBlock]])
}
