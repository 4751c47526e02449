'use client'

import { formatPercent } from '@/ui/format/amount'
import { useFrame } from '@/ui/frame/frame-context'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import type { ListPriceCell, ListPriceRow, ListPricesView } from './load-list-prices'
import { setListPrice } from './price-in-list'

interface ListPricesSectionProps {
  readonly view: ListPricesView
  readonly live: boolean
}

interface Opened {
  readonly list: string
  /** Label of the item. */
  readonly label: string
}

/** A product's prices in every list and contract; typing over one makes or changes the line of that variant. */
export function ListPricesSection({ view, live }: ListPricesSectionProps) {
  const { items, rows, others, more } = view
  const [opened, setOpened] = useState<Opened | null>(null)
  const [added, setAdded] = useState<readonly string[]>([])
  const shown: readonly ListPriceRow[] = [
    ...rows,
    ...others.flatMap(({ list, name }) =>
      added.includes(list)
        ? [
            {
              list,
              name,
              href: null,
              rule: 'no price yet',
              who: '',
              currency: '',
              // Nothing but what the items are is known of them yet.
              cells: (rows[0]?.cells ?? []).map((cell) => ({
                ...cell,
                price: '',
                margin: null,
                isBelowCost: false,
              })),
            },
          ]
        : [],
    ),
  ]
  const addable = others.filter(({ list }) => !added.includes(list))
  return (
    <section className="px-6 pt-5" aria-label="Its prices in every list and contract">
      <h2 className="flex flex-wrap items-baseline gap-x-4 pb-1 font-semibold">
        Its prices in every list and contract
        <span className="text-xs font-normal text-soft">
          at the vantage’s quantity; margin in % beside each price
          {more > 0 && `; ${more} more variants on the board`}
        </span>
        {live && addable.length > 0 && (
          <select
            aria-label="Set a price in another list"
            className="ml-auto max-w-64 border border-base-300 bg-lifted px-2 py-0.5 font-normal"
            value=""
            onChange={(event) => setAdded([...added, event.target.value])}
          >
            <option value="">Set a price in another list …</option>
            {addable.map(({ list, name }) => (
              <option key={list} value={list}>
                {name}
              </option>
            ))}
          </select>
        )}
      </h2>
      <div className="overflow-x-auto">
        <table className="w-full">
          <thead>
            <tr className="border-b border-base-content text-right align-bottom">
              <th className="py-1 text-left font-semibold">List or contract</th>
              <th className="pl-4 text-left font-semibold">Who gets it</th>
              {items.map(({ id, name, href }) => (
                <th key={id} className="w-24 pl-3 font-semibold">
                  {href === null ? (
                    name
                  ) : (
                    <>
                      <span className="block text-xs font-normal text-soft">extra</span>
                      <VantageLink href={href} className="link-name">
                        {name}
                      </VantageLink>
                    </>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((row) => (
              <tr key={row.list ?? 'base'} className="border-b border-base-300 align-top">
                <td className="py-1">
                  {row.href === null ? (
                    row.name
                  ) : (
                    <VantageLink href={row.href} className="link-name">
                      {row.name}
                    </VantageLink>
                  )}{' '}
                  <span className="text-xs text-soft">
                    {[row.rule, row.currency].filter(Boolean).join(', ')}
                  </span>
                </td>
                <td className="py-1 pl-4 text-soft">{row.who}</td>
                {row.cells.map((cell) => (
                  <td key={cell.label} className="py-1 pl-3 text-right whitespace-nowrap">
                    {row.list !== null && opened?.list === row.list && opened.label === cell.label ? (
                      <PriceInput row={row} cell={cell} onClose={() => setOpened(null)} />
                    ) : (
                      <Price
                        row={row}
                        cell={cell}
                        onOpen={
                          live && row.list !== null
                            ? () => setOpened({ list: row.list ?? '', label: cell.label })
                            : null
                        }
                      />
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}

interface PriceProps {
  readonly row: ListPriceRow
  readonly cell: ListPriceCell
  readonly onOpen: (() => void) | null
}

function Price({ row, cell, onOpen }: PriceProps) {
  const { price, margin, isBelowCost } = cell
  return (
    <>
      {onOpen ? (
        <button
          type="button"
          aria-label={`${row.name}, ${cell.label}: ${price || 'no price'}. Change`}
          className="border-b border-dotted border-base-content/40 px-1 font-semibold hover:border-primary"
          onClick={onOpen}
        >
          {price || '–'}
        </button>
      ) : (
        <span className="px-1 font-semibold">{price || '–'}</span>
      )}
      {margin !== null && (
        <span className={`pl-1 text-xs ${isBelowCost ? 'font-semibold text-error' : 'text-soft'}`}>
          {formatPercent(margin)}
        </span>
      )}
    </>
  )
}

function PriceInput({
  row,
  cell,
  onClose,
}: {
  readonly row: ListPriceRow
  readonly cell: ListPriceCell
  readonly onClose: () => void
}) {
  const [typed, setTyped] = useState(cell.price)
  const [problem, setProblem] = useState<string | null>(null)
  const { vantage, pricesChanged } = useFrame()
  const router = useRouter()

  async function save(): Promise<void> {
    if (typed.trim() === cell.price) return onClose()
    const outcome = await setListPrice({
      list: row.list ?? '',
      item: cell.item,
      typed,
      seen: cell.price,
      vantage,
    })
    if (!outcome.ok) return setProblem(outcome.problem)
    pricesChanged(outcome.changeSet)
    router.refresh()
    onClose()
  }
  return (
    <form
      className="inline-flex flex-col items-end"
      onSubmit={(event) => {
        event.preventDefault()
        void save()
      }}
    >
      <input
        autoFocus
        aria-label={`New price in ${row.name}`}
        aria-invalid={problem !== null}
        className="w-24 border-2 border-secondary bg-lifted px-1 text-right aria-[invalid=true]:border-error"
        value={typed}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setTyped(event.target.value)
          setProblem(null)
        }}
        onKeyDown={(event) => event.key === 'Escape' && onClose()}
      />
      <span className="max-w-40 pt-0.5 text-left text-xs whitespace-normal text-soft">
        {problem ? (
          <span role="alert" className="text-error">
            {problem}
          </span>
        ) : (
          `Enter sets it for ${row.who || `whoever ${row.name} is for`}. Empty lets the rule decide again.`
        )}
      </span>
    </form>
  )
}
