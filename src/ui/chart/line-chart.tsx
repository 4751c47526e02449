'use client'

import { LineChart as LineSeries } from 'echarts/charts'
import { GridComponent, TooltipComponent } from 'echarts/components'
import { use as register } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { useChart } from './use-chart'

register([LineSeries, GridComponent, TooltipComponent, SVGRenderer])

interface LineChartProps {
  readonly title: string
  readonly points: readonly { readonly at: string; readonly value: number }[]
}

/** How one figure went over time; the figures themselves stand in a table beside it. */
export function LineChart({ title, points }: LineChartProps) {
  const holder = useChart(
    (style) => ({
      animation: false,
      textStyle: { fontFamily: style.fontFamily, color: style.color },
      grid: { left: 48, right: 12, top: 10, bottom: 24 },
      tooltip: { trigger: 'axis' },
      xAxis: {
        type: 'time',
        axisLabel: { color: style.color, hideOverlap: true },
        axisLine: { lineStyle: { color: style.color } },
      },
      yAxis: {
        type: 'value',
        scale: true,
        splitNumber: 3,
        axisLabel: { color: style.color },
        splitLine: { lineStyle: { color: style.color, opacity: 0.15 } },
      },
      series: [
        {
          type: 'line',
          step: 'end',
          symbolSize: 5,
          color: style.getPropertyValue('border-left-color'),
          data: points.map(({ at, value }) => [at, value]),
        },
      ],
    }),
    points,
  )
  return (
    <figure className="pb-4">
      <figcaption className="text-xs font-semibold">{title}</figcaption>
      <div ref={holder} aria-hidden className="h-40 border-l-0 border-primary text-soft" />
    </figure>
  )
}
