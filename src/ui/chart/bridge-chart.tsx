'use client'

import { BarChart } from 'echarts/charts'
import { GridComponent } from 'echarts/components'
import { use as register } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { useChart } from './use-chart'

register([BarChart, GridComponent, SVGRenderer])

interface BridgeChartProps {
  readonly title: string
  /** A `sum` stands on the ground; a `change` goes on from where the bar before it ended. */
  readonly steps: readonly {
    readonly name: string
    readonly kind: 'sum' | 'change'
    readonly value: number
    readonly words: string
  }[]
}

/** The way from one sum to another, step by step; the figures themselves stand in a table beside it. */
export function BridgeChart({ title, steps }: BridgeChartProps) {
  const holder = useChart((style) => {
    const [sums, less, more] = ['--color-primary', '--bar', '--color-accent'].map((name) =>
      style.getPropertyValue(name).trim(),
    )
    let at = 0
    const bars = steps.map(({ kind, value }) => {
      const from = kind === 'sum' ? 0 : at
      at = kind === 'sum' ? value : at + value
      return { low: Math.min(from, at), high: Math.max(from, at) }
    })
    const colourOf = (place: number) =>
      steps[place]?.kind === 'sum' ? sums : (steps[place]?.value ?? 0) < 0 ? less : more
    const label = { show: true, position: 'top' as const, color: style.color, fontFamily: style.fontFamily }
    return {
      animation: false,
      textStyle: { fontFamily: style.fontFamily, color: style.color },
      grid: { left: 8, right: 8, top: 24, bottom: 40 },
      xAxis: {
        type: 'category',
        data: steps.map(({ name }) => name),
        axisTick: { show: false },
        axisLine: { lineStyle: { color: style.color, opacity: 0.4 } },
        axisLabel: { color: style.color, interval: 0, width: 110, lineHeight: 14, overflow: 'break' },
      },
      yAxis: { type: 'value', show: false },
      series: [
        // What carries a bar up to where it begins is not seen.
        {
          type: 'bar',
          stack: 'way',
          silent: true,
          barWidth: '62%',
          itemStyle: { color: 'transparent' },
          data: bars.map(({ low }) => low),
        },
        {
          type: 'bar',
          stack: 'way',
          barWidth: '62%',
          data: bars.map(({ low, high }, place) => ({
            value: high - low,
            itemStyle: { color: colourOf(place) },
            label: { ...label, formatter: steps[place]?.words ?? '' },
          })),
        },
      ],
    }
  }, steps)
  return (
    <figure>
      <figcaption className="sr-only">{title}</figcaption>
      <div ref={holder} aria-hidden className="h-64 text-base-content" />
    </figure>
  )
}
