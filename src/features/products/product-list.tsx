'use client'

import { formatPercent } from '@/ui/format/amount'
import { useFrame } from '@/ui/frame/frame-context'
import { VantageLink } from '@/ui/frame/vantage-link'
import { ColumnHeading } from '@/ui/grid/column-heading'
import { DataGrid, type GridColumn } from '@/ui/grid/data-grid'
import { useRouter } from 'next/navigation'
import { type ReactNode, useCallback, useEffect, useRef, useState } from 'react'
import type { ProductListRow, ProductListView } from './product-view'
import { recordHref } from '@/ui/frame/record-href'

/** Milliseconds without a key before what was typed is looked for. */
const REST = 200

interface ProductListProps {
  readonly view: ProductListView
  readonly buyerName: string
  readonly currency: string
  readonly tabs: ReactNode
}

/** Every product with its reference amounts and what the buyer looked as pays. */
export function ProductList({ view, buyerName, currency, tabs }: ProductListProps) {
  const { rows: shown, found, all, find } = view
  const [text, setText] = useState(find)
  const { href } = useFrame()
  const router = useRouter()
  const searching = useRef<ReturnType<typeof setTimeout>>(undefined)
  /** Whoever opens a product is not called back by the search they typed before it. */
  const stopSearching = () => clearTimeout(searching.current)
  useEffect(() => {
    const words = text.trim()
    if (words === find) return undefined
    const query = words === '' ? '' : `?find=${encodeURIComponent(words)}`
    searching.current = setTimeout(() => router.replace(href(`/products${query}`)), REST)
    return () => clearTimeout(searching.current)
  }, [text, find, href, router])
  const rowKey = useCallback((row: number) => shown[row]?.code ?? String(row), [shown])
  const columns: readonly GridColumn[] = [
    { key: 'name', header: 'Product', width: 'minmax(200px, 2fr)' },
    { key: 'code', header: 'Code', width: '84px' },
    { key: 'category', header: 'Category', width: 'minmax(140px, 1fr)' },
    { key: 'variants', header: 'Variants', width: '72px', align: 'right' },
    {
      key: 'base',
      header: <ColumnHeading title="Base price" subtitle={`net ${currency}`} />,
      width: '150px',
      align: 'right',
    },
    {
      key: 'cost',
      header: <ColumnHeading title="Cost" subtitle={`net ${currency}`} />,
      width: '150px',
      align: 'right',
    },
    {
      key: 'price',
      header: <ColumnHeading title={`Price for ${buyerName}`} subtitle="lowest to highest" />,
      width: '160px',
      align: 'right',
    },
    {
      key: 'margin',
      header: <ColumnHeading title="Least margin" subtitle={`for ${buyerName}`} />,
      width: '100px',
      align: 'right',
    },
  ]
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label="Products">
      <header className="flex items-baseline gap-5 px-6 pt-3 pb-2">
        <h1 className="text-xl leading-7 font-semibold">Products</h1>
        {tabs}
        <input
          type="search"
          aria-label="Only products with these words"
          placeholder="name, code or category"
          className="w-60 border-b border-base-300 bg-transparent px-1 py-0.5"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <span className="text-soft">
          {found === all ? `${all} products` : `${found} of ${all} products`}
          {shown.length < found && `, the first ${shown.length} shown; words narrow them`}
        </span>
        <VantageLink href="/import" className="ml-auto link-name">
          Import from a spreadsheet
        </VantageLink>
        <VantageLink href="/products/new" className="btn btn-primary btn-sm">
          New product
        </VantageLink>
      </header>
      <div
        className="flex min-h-0 flex-1 flex-col px-4 pb-2"
        onClickCapture={(event) => (event.target as HTMLElement).closest('a') && stopSearching()}
      >
        <DataGrid
          label="Products"
          columns={columns}
          rowCount={shown.length}
          rowKey={rowKey}
          onToggle={(row) => {
            const code = shown[row]?.code
            stopSearching()
            if (code) router.push(href(recordHref('products', code)))
            return code !== undefined
          }}
          renderCell={(row, column) => {
            const product = shown[row]
            return product && <ProductCell product={product} column={columns[column]?.key ?? ''} />
          }}
          empty={<p className="px-2 py-6 text-soft">No product matches “{find}”.</p>}
        />
      </div>
    </section>
  )
}

function ProductCell({ product, column }: { readonly product: ProductListRow; readonly column: string }) {
  switch (column) {
    case 'name':
      return (
        <VantageLink
          href={recordHref('products', product.code)}
          tabIndex={-1}
          className="truncate font-semibold hover:underline"
        >
          {product.name}
        </VantageLink>
      )
    case 'margin': {
      const margin = product.leastMargin
      if (margin === null) return <span className="text-soft">–</span>
      return (
        <span className={margin.startsWith('-') ? 'font-semibold text-error' : ''}>
          {formatPercent(margin)}
        </span>
      )
    }
    case 'price':
      return product.price || <span className="text-soft">no price</span>
    case 'base':
      return product.base || <span className="text-soft">none</span>
    case 'cost':
      return <span className="text-soft">{product.cost || '–'}</span>
    case 'variants':
      return product.variants
    case 'category':
      return <span className="truncate text-soft">{product.category}</span>
    default:
      return <span className="text-soft">{product.code}</span>
  }
}
