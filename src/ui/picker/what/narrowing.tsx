'use client'

import { compare, parseDecimal } from '@/core/decimal/decimal'
import type { What } from '@/core/predicates/what'
import { AmountInput } from '../amount-input'
import { Heading } from '../panel/picker-parts'
import { priceSpanOf, type StockChoice, stockOf, withPriceSpan, withStock } from './narrowed'
import type { Histogram, WhatMatched } from './what-choices'

interface NarrowingProps {
  readonly what: What
  readonly matched: WhatMatched
  readonly onChange: (what: What) => void
}

/** Narrowing what is matched to a span of base prices, by handles under its histogram or by typing. */
export function PriceNarrowing({ what, matched: { prices, currency }, onChange }: NarrowingProps) {
  if (!prices) return null
  const { from, to } = priceSpanOf(what)
  const { edges } = prices
  const last = edges.length - 1
  // A typed amount may stand between two edges: the handle stands at the one before it.
  const edgeAt = (amount: string) =>
    Math.max(
      0,
      edges.findLastIndex((edge) => compareTexts(edge, amount) <= 0),
    )
  const [low, high] = [from === null ? 0 : edgeAt(from), to === null ? last : edgeAt(to)]
  const amount = (text: string) => parseDecimal(text)
  const setLow = (at: number) =>
    onChange(withPriceSpan(what, { from: at <= 0 ? null : amount(edges[Math.min(at, high - 1)] ?? ''), to }))
  const setHigh = (at: number) =>
    onChange(
      withPriceSpan(what, { from, to: at >= last ? null : amount(edges[Math.max(at, low + 1)] ?? '') }),
    )
  return (
    <section aria-label="Base price">
      <Heading>Base price, {currency}</Heading>
      <Bars histogram={prices} low={low} high={high} />
      <div className="relative h-4">
        <Handle label="Base price from" value={low} text={from ?? 'any'} last={last} onMove={setLow} />
        <Handle label="Base price below" value={high} text={to ?? 'any'} last={last} onMove={setHigh} />
      </div>
      <p className="grid grid-cols-[minmax(0,1fr)_auto_minmax(0,1fr)] items-baseline gap-2 pt-1">
        <AmountInput
          label="Lowest base price"
          value={from ?? ''}
          placeholder={edges[0]}
          onChange={(text) => onChange(withPriceSpan(what, { from: amount(text), to }))}
          onClear={() => onChange(withPriceSpan(what, { from: null, to }))}
        />
        <span className="text-soft">to</span>
        <AmountInput
          label="Base price it stays below"
          value={to ?? ''}
          placeholder={edges[last]}
          onChange={(text) => onChange(withPriceSpan(what, { from, to: amount(text) }))}
          onClear={() => onChange(withPriceSpan(what, { from, to: null }))}
        />
      </p>
      {from !== null && to !== null && compare(from, to) >= 0 && (
        <p role="alert" className="text-error">
          Nothing is from {from} and below {to}: the second must be higher.
        </p>
      )}
    </section>
  )
}

function compareTexts(left: string, right: string): number {
  const [first, second] = [parseDecimal(left), parseDecimal(right)]
  return first === null || second === null ? 0 : compare(first, second)
}

/** How the margins of what is matched are spread. */
export function Margins({ margins }: Pick<WhatMatched, 'margins'>) {
  if (!margins) return null
  const { edges, counts } = margins
  return (
    <section aria-label="Margin at base">
      <Heading>Margin at base</Heading>
      <Bars histogram={margins} low={0} high={counts.length} />
      <p className="flex justify-between border-t border-base-content/40 text-xs text-soft">
        <span>{edges[0]?.replace('-', '−')} %</span>
        <span>{edges.at(-1)?.replace('-', '−')} %</span>
      </p>
    </section>
  )
}

/** Bars from one edge to another are filled; those outside are pale. */
function Bars({
  histogram: { edges, counts },
  low,
  high,
}: {
  readonly histogram: Histogram
  readonly low: number
  readonly high: number
}) {
  const most = Math.max(1, ...counts)
  const width = 200 / counts.length
  return (
    <svg viewBox="0 0 200 34" preserveAspectRatio="none" className="block h-9 w-full" role="img">
      <title>{counts.map((count, at) => `${edges[at]} to ${edges[at + 1]}: ${count}`).join(', ')}</title>
      {counts.map((count, at) => {
        // The fewest are still seen.
        const height = count === 0 ? 0 : 3 + (count / most) * 31
        return (
          <rect
            key={edges[at]}
            x={at * width + 0.5}
            y={34 - height}
            width={width - 1}
            height={height}
            className={at >= low && at < high ? 'fill-bar' : 'fill-base-300'}
          />
        )
      })}
    </svg>
  )
}

interface HandleProps {
  readonly label: string
  readonly value: number
  readonly text: string
  readonly last: number
  readonly onMove: (at: number) => void
}

function Handle({ label, value, text, last, onMove }: HandleProps) {
  return (
    <input
      type="range"
      aria-label={label}
      aria-valuetext={text}
      className="span-handle"
      min={0}
      max={last}
      value={value}
      onChange={(event) => onMove(Number(event.target.value))}
    />
  )
}

const STOCK: readonly (readonly [StockChoice, string])[] = [
  ['any', 'any'],
  ['in-stock', 'in stock'],
  ['out-of-stock', 'out of stock'],
]

/** Narrowing what is matched to what is in stock, or out of it. */
export function StockNarrowing({ what, matched: { stock }, onChange }: NarrowingProps) {
  const chosen = stockOf(what)
  const counts: Readonly<Record<StockChoice, number>> = {
    any: stock.inStock + stock.outOfStock,
    'in-stock': stock.inStock,
    'out-of-stock': stock.outOfStock,
  }
  return (
    <div role="radiogroup" aria-label="Stock">
      <Heading>Stock</Heading>
      {STOCK.map(([choice, name]) => (
        <label key={choice} className="flex items-center gap-2 py-0.5">
          <input
            type="radio"
            name="stock"
            className="radio radio-xs radio-primary"
            checked={chosen === choice}
            onChange={() => onChange(withStock(what, choice))}
          />
          <span className="grow">{name}</span>
          <span className="text-xs text-soft">{counts[choice]}</span>
        </label>
      ))}
    </div>
  )
}
