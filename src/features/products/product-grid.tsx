'use client'

import { marginPercent } from '@/core/price/margin'
import { formatAmount, formatPercent } from '@/ui/format/amount'
import { ALLOWED_PRICES } from '@/ui/format/refusal-sentence'
import { useFrame } from '@/ui/frame/frame-context'
import { HistorySection } from '@/ui/frame/history-section'
import { useSheet } from '@/ui/frame/use-sheet'
import { DataGrid, type GridColumn } from '@/ui/grid/data-grid'
import type { ReactNode } from 'react'
import { editProduct, undoOnProduct } from './edit-product'
import { PRODUCT_FIELDS, type ProductSheetRow, type ProductSheetView } from './product-view'

const FIRST_FIELD = 1
const PRICE = FIRST_FIELD + PRODUCT_FIELDS.length

/** What a product sets, what each variant takes over or sets for itself, and what changed. */
export function ProductGrid({
  initial,
  children,
}: {
  readonly initial: ProductSheetView
  /** What stands between the figures and the history. */
  readonly children: ReactNode
}) {
  const { view, take } = useSheet(initial)
  const { showTrace } = useFrame()
  const rows: readonly (ProductSheetRow | null)[] = [null, ...view.variants]

  const columns: readonly GridColumn[] = [
    { key: 'name', header: 'Variant', width: 'minmax(184px, 1fr)' },
    ...PRODUCT_FIELDS.map(({ field, name }) => ({
      key: field,
      header: name,
      width: field === 'recommendedPrice' ? '96px' : '76px',
      align: 'right' as const,
    })),
    { key: 'price', header: `For ${view.buyerName}`, width: '84px', align: 'right' },
    { key: 'margin', header: 'Margin', width: '60px', align: 'right' },
    { key: 'from', header: 'Decided by', width: 'minmax(80px, 160px)' },
  ]

  async function onEdit(row: number, column: number, typed: string): Promise<string | null> {
    const field = PRODUCT_FIELDS[column - FIRST_FIELD]?.field
    if (!field) return 'This follows from the others and cannot be typed.'
    const variant = rows[row]
    const edit = variant
      ? ({
          kind: 'value',
          record: 'variant',
          id: variant.id,
          field,
          typed,
          seen: variant.values[field].value,
        } as const)
      : ({ kind: 'value', record: 'product', id: view.id, field, typed, seen: view.values[field] } as const)
    return take(() => editProduct(edit, view.code, view.vantage))
  }

  function editText(row: number, column: number): string | null {
    const field = PRODUCT_FIELDS[column - FIRST_FIELD]?.field
    if (!view.live || !field) return null
    const variant = rows[row]
    return (variant ? variant.values[field].value : view.values[field]) ?? ''
  }

  return (
    <div className="-mx-6 flex flex-col">
      <div className="flex flex-col px-4" style={{ minHeight: Math.min(420, 60 + 27 * rows.length) }}>
        <DataGrid
          label={`Values of ${view.name}`}
          columns={columns}
          rowCount={rows.length}
          rowKey={(row) => rows[row]?.id ?? 'product'}
          rowClass={(row) => (row === 0 ? 'font-semibold' : '')}
          cellClass={(_row, column) => (column >= FIRST_FIELD && column < PRICE ? 'bg-lifted' : '')}
          renderCell={(row, column) => renderCell(rows[row] ?? null, column)}
          editText={editText}
          editLabel={(row, column) => `New ${columns[column]?.key} of ${rows[row]?.sku ?? view.code}`}
          editHint={(row) =>
            row === 0
              ? `Every variant without its own takes this over. ${ALLOWED_PRICES}`
              : `Leave empty to take it over from the product. ${ALLOWED_PRICES}`
          }
          onEdit={onEdit}
          onCell={(row, column, asked) => {
            const sku = rows[row]?.sku
            if (sku) showTrace({ sku, from: null }, asked || column >= PRICE)
          }}
        />
      </div>
      <p className="px-6 pt-2 text-xs text-soft">
        <i>Italic</i> is taken over from the product, <b className="font-semibold text-base-content">bold</b>{' '}
        is the variant’s own. Empty a variant’s own figure to take the product’s over again.
      </p>
      {children}
      <HistorySection
        history={view.history}
        onUndo={
          view.live ? (changeSet) => take(() => undoOnProduct(changeSet, view.code, view.vantage)) : undefined
        }
      />
    </div>
  )

  function renderCell(variant: ProductSheetRow | null, column: number) {
    if (column === 0) {
      if (!variant) return 'For all variants'
      return (
        <span className="truncate pl-4">
          {variant.name || view.name} <span className="text-2xs text-soft">{variant.sku}</span>
        </span>
      )
    }
    const field = PRODUCT_FIELDS[column - FIRST_FIELD]
    if (field) {
      const digits = field.digits ?? view.digits
      if (!variant) {
        const value = view.values[field.field]
        return value === null ? (
          <span className="font-normal text-soft">none</span>
        ) : (
          formatAmount(value, digits)
        )
      }
      const { value, own } = variant.values[field.field]
      if (value === null) return <span className="text-soft">none</span>
      return <span className={own ? 'font-semibold' : 'text-soft italic'}>{formatAmount(value, digits)}</span>
    }
    if (!variant) return null
    if (column === PRICE)
      return variant.price === null ? (
        <span className="text-soft">no price</span>
      ) : (
        formatAmount(variant.price, view.digits)
      )
    if (column === PRICE + 1) {
      const cost = variant.values.cost.value
      const margin = variant.compared !== null && cost !== null ? marginPercent(variant.compared, cost) : null
      if (margin === null) return <span className="text-soft">–</span>
      return (
        <span className={margin.startsWith('-') ? 'font-semibold text-error' : ''}>
          {formatPercent(margin)}
        </span>
      )
    }
    return <span className="truncate text-soft">{variant.priceFrom ?? 'base price'}</span>
  }
}
