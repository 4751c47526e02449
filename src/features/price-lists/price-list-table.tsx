'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { VantageLink } from '@/ui/frame/vantage-link'
import { DataGrid, type GridColumn } from '@/ui/grid/data-grid'
import { useTableOrder } from '@/ui/grid/use-table-order'
import { useRouter } from 'next/navigation'
import { useMemo } from 'react'
import type { PriceListRow } from './price-list-view'
import { recordHref } from '@/ui/frame/record-href'

interface PriceListTableProps {
  readonly rows: readonly PriceListRow[]
  readonly buyerName: string
}

const isPutAway = ({ on }: PriceListRow) => !on

function orderedColumns(buyerName: string) {
  return [
    { key: 'name', title: 'Price list', textOf: ({ name, code }: PriceListRow) => `${name} ${code}` },
    { key: 'audience', title: 'For', textOf: ({ audience }: PriceListRow) => audience },
    { key: 'purpose', title: 'Purpose', textOf: ({ purpose }: PriceListRow) => purpose },
    { key: 'accounts', title: 'Accounts', textOf: ({ accounts }: PriceListRow) => String(accounts) },
    { key: 'lines', title: 'Lines', textOf: ({ lines }: PriceListRow) => String(lines) },
    { key: 'otherwise', title: 'All other items', textOf: ({ otherwise }: PriceListRow) => otherwise },
    {
      key: 'decides',
      title: `Prices that ${buyerName} gets from here`,
      textOf: ({ decides }: PriceListRow) => String(decides),
    },
  ]
}

/** Every price list: who it is for, what it does, and how much it decides for the buyer looked as. */
export function PriceListTable({ rows, buyerName }: PriceListTableProps) {
  const { href } = useFrame()
  const router = useRouter()
  const ordered = useMemo(() => orderedColumns(buyerName), [buyerName])
  const { shown, header, tools } = useTableOrder(rows, ordered, { isPutAway, label: 'price lists' })
  const columns: readonly GridColumn[] = [
    { key: 'name', header: header('name'), width: 'minmax(180px, 1.4fr)' },
    { key: 'audience', header: header('audience'), width: 'minmax(180px, 2fr)' },
    { key: 'purpose', header: header('purpose'), width: '110px' },
    { key: 'accounts', header: header('accounts'), width: '80px', align: 'right' },
    { key: 'lines', header: header('lines'), width: '60px', align: 'right' },
    { key: 'otherwise', header: header('otherwise'), width: '130px' },
    { key: 'decides', header: header('decides'), width: '150px', align: 'right' },
  ]
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label="Price lists">
      <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 px-6 pt-3 pb-2">
        <h1 className="text-xl leading-7 font-semibold">Price lists</h1>
        <p className="text-soft">
          Lists of a contract come first, then an account’s own, its group’s, those for everyone, the base
          price.
        </p>
        <VantageLink href="/price-lists/new" className="btn ml-auto btn-primary btn-sm">
          New price list
        </VantageLink>
        {rows.length > 1 && tools}
      </header>
      <div className="flex min-h-0 flex-1 flex-col px-4 pb-2">
        <DataGrid
          label="Price lists"
          columns={columns}
          rowCount={shown.length}
          rowKey={(row) => shown[row]?.code ?? String(row)}
          rowClass={(row) => (shown[row]?.on ? '' : 'text-soft')}
          onToggle={(row) => {
            const code = shown[row]?.code
            if (code) router.push(href(recordHref('price-lists', code)))
            return code !== undefined
          }}
          renderCell={(row, column) => {
            const list = shown[row]
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
