'use client'

import { init } from 'echarts/core'
import { type RefObject, useEffect, useRef } from 'react'

type Options = Parameters<ReturnType<typeof init>['setOption']>[0]

/** A chart in a holder, drawn with the colours and font of the page, and drawn anew when what it shows or the page's size changes. */
export function useChart(
  draw: (style: CSSStyleDeclaration) => Options,
  shown: unknown,
): RefObject<HTMLDivElement | null> {
  const holder = useRef<HTMLDivElement>(null)
  const latest = useRef(draw)
  useEffect(() => {
    latest.current = draw
  })
  useEffect(() => {
    const element = holder.current
    if (!element) return
    const chart = init(element, null, { renderer: 'svg' })
    chart.setOption(latest.current(getComputedStyle(element)))
    const watcher = new ResizeObserver(() => chart.resize())
    watcher.observe(element)
    return () => {
      watcher.disconnect()
      chart.dispose()
    }
  }, [shown])
  return holder
}
