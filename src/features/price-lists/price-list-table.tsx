'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { VantageLink } from '@/ui/frame/vantage-link'
import { DataGrid, type GridColumn } from '@/ui/grid/data-grid'
import { useRouter } from 'next/navigation'
import type { PriceListRow } from './price-list-view'
import { recordHref } from '@/ui/frame/record-href'

interface PriceListTableProps {
  readonly rows: readonly PriceListRow[]
  readonly buyerName: string
}

/** Every price list: who it is for, what it does, and how much it decides for the buyer looked as. */
export function PriceListTable({ rows, buyerName }: PriceListTableProps) {
  const { href } = useFrame()
  const router = useRouter()
  const columns: readonly GridColumn[] = [
    { key: 'name', header: 'Price list', width: 'minmax(180px, 1.4fr)' },
    { key: 'audience', header: 'For', width: 'minmax(180px, 2fr)' },
    { key: 'purpose', header: 'Purpose', width: '110px' },
    { key: 'accounts', header: 'Accounts', width: '80px', align: 'right' },
    { key: 'lines', header: 'Lines', width: '60px', align: 'right' },
    { key: 'otherwise', header: 'All other items', width: '130px' },
    { key: 'decides', header: `Prices that ${buyerName} gets from here`, width: '150px', align: 'right' },
  ]
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label="Price lists">
      <header className="flex items-baseline gap-5 px-6 pt-3 pb-2">
        <h1 className="text-xl leading-7 font-semibold">Price lists</h1>
        <p className="text-soft">
          Lists of a contract come first, then an account’s own, its group’s, those for everyone, the base
          price.
        </p>
        <VantageLink href="/price-lists/new" className="btn ml-auto btn-primary btn-sm">
          New price list
        </VantageLink>
      </header>
      <div className="flex min-h-0 flex-1 flex-col px-4 pb-2">
        <DataGrid
          label="Price lists"
          columns={columns}
          rowCount={rows.length}
          rowKey={(row) => rows[row]?.code ?? String(row)}
          rowClass={(row) => (rows[row]?.on ? '' : 'text-soft')}
          onToggle={(row) => {
            const code = rows[row]?.code
            if (code) router.push(href(recordHref('price-lists', code)))
            return code !== undefined
          }}
          renderCell={(row, column) => {
            const list = rows[row]
            return list && <ListCell list={list} column={columns[column]?.key ?? ''} />
          }}
          empty={
            <p className="px-2 py-6 text-soft">There is no price list: everybody pays the base price.</p>
          }
        />
      </div>
    </section>
  )
}

function ListCell({ list, column }: { readonly list: PriceListRow; readonly column: string }) {
  switch (column) {
    case 'name':
      return (
        <VantageLink
          href={recordHref('price-lists', list.code)}
          tabIndex={-1}
          className="truncate hover:underline"
        >
          <span className="font-semibold">{list.name}</span>
          {!list.on && <span> · switched off</span>}
        </VantageLink>
      )
    case 'audience':
      return <span className="truncate">{list.audience}</span>
    case 'decides':
      return list.decides === 0 ? <span className="text-soft">nothing</span> : `${list.decides} variants`
    case 'otherwise':
      return list.otherwise || <span className="text-soft">left to the next</span>
    default:
      return <span className="text-soft">{String(list[column as 'purpose' | 'accounts' | 'lines'])}</span>
  }
}
