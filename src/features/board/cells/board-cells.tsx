'use client'

import { VantageLink } from '@/ui/frame/vantage-link'
import { ColumnHeading } from '@/ui/grid/column-heading'
import { differenceText, isCellBelowCost, isInWords, type Measure, measureText } from './board-measures'
import type { BoardRow } from '../rows/board-rows'
import { formatAmount } from '@/ui/format/amount'
import type { BoardCell, BoardProduct, BoardVariant, LiveFigure } from '../board-view'
import { recordHref } from '@/ui/frame/record-href'

interface BuyerHeadingProps {
  readonly title: string
  readonly subtitle: string
  /** Whether the vantage looks as this buyer. */
  readonly looked: boolean
  readonly onLook: () => void
}

/** A buyer's column heading, which can be looked as. */
export function BuyerHeading({ title, subtitle, looked, onLook }: BuyerHeadingProps) {
  return (
    <button
      type="button"
      tabIndex={-1}
      title={looked ? `You are looking as ${title}` : `Look as ${title}`}
      className={`w-full text-right leading-4 hover:underline ${looked ? 'text-secondary' : ''}`}
      onClick={onLook}
    >
      <ColumnHeading title={title} subtitle={subtitle} />
    </button>
  )
}

export function ProductName({
  product,
  row,
}: {
  readonly product: BoardProduct
  readonly row: Extract<BoardRow, { kind: 'product' }>
}) {
  return (
    <span className="@container min-w-0 flex-1">
      <span className="flex cursor-pointer items-baseline gap-2">
        <span aria-hidden className="w-3 shrink-0 text-[9px] text-soft">
          {row.open ? '▼' : '▶'}
        </span>
        <span className="truncate" title={`${product.name}, ${product.code}`}>
          {product.name}
        </span>
        <span className="shrink-0 text-2xs font-normal text-soft">
          <span className="hidden @min-[240px]:inline">{product.code} · </span>
          {row.variants}
        </span>
        <span className="sr-only">{row.open ? 'variants, open' : 'variants, closed'}</span>
      </span>
    </span>
  )
}

export function VariantName({
  product,
  variant,
  alone,
}: {
  readonly product: BoardProduct
  readonly variant: BoardVariant
  readonly alone: boolean
}) {
  return (
    <VantageLink
      href={recordHref('products', product.code)}
      tabIndex={-1}
      title={`${variant.sku}: open ${product.name}`}
      className={`min-w-0 truncate hover:underline ${alone ? 'pl-5 font-semibold' : 'pl-5'}`}
    >
      {alone && variant.name !== product.name && `${product.name}, `}
      {variant.name}
    </VantageLink>
  )
}

/** What is live, small before what the draft says. */
export function LiveFigureText({ live, digits }: { readonly live: LiveFigure; readonly digits: number }) {
  if (!live) return null
  return (
    <span className="pr-1 text-2xs font-normal whitespace-nowrap text-soft not-italic">
      <span className="sr-only">live </span>
      {live.amount === null ? 'none' : formatAmount(live.amount, digits)}
      <span className="sr-only">, in the draft </span>
    </span>
  )
}

interface BuyerCellProps {
  readonly cell: BoardCell
  readonly measure: Measure
  readonly digits: number
  readonly listNames: Readonly<Record<string, string>>
  /** The price in the first column, where it is in the same currency. */
  readonly first: BoardCell['amount']
  /** Whether the difference to the first column stands beside the price. */
  readonly compared: boolean
}

/** A price with the mark of where it comes from. */
export function BuyerCellContent({ cell, measure, digits, listNames, first, compared }: BuyerCellProps) {
  const below = isCellBelowCost(cell, measure)
  const missing = cell.amount === null || cell.hidden
  const isPromoted = measure === 'promoted' && cell.promoted !== null
  const marks = isPromoted ? ['P'] : cell.marks
  return (
    <>
      {marks.length > 0 && !cell.hidden && !isInWords(measure) && !(cell.live && measure === 'price') && (
        <abbr
          title={
            isPromoted ? cell.promoted?.by : cell.list === null ? '' : (listNames[cell.list] ?? cell.list)
          }
          className="absolute left-1.5 text-2xs text-soft no-underline"
        >
          {marks.join('')}
        </abbr>
      )}
      {measure === 'price' && <LiveFigureText live={cell.live} digits={digits} />}
      {compared && measure === 'price' && (
        <span className="pr-3 text-2xs text-soft">{differenceText(cell, first)}</span>
      )}
      <span
        className={
          cell.hidden || (cell.barred !== '' && measure === 'access')
            ? 'bg-hatched px-1 text-soft'
            : below && !isInWords(measure)
              ? 'font-semibold text-error'
              : missing
                ? 'text-soft'
                : ''
        }
      >
        {measureText(measure, cell, digits, listNames, first)}
        {below && !isInWords(measure) && (
          <span className="text-[9px] whitespace-nowrap">
            <span aria-hidden>▾</span>
            <span className="sr-only">below cost</span>
          </span>
        )}
      </span>
    </>
  )
}
