'use client'

import { recordHref } from '@/ui/frame/record-href'
import { TypedWord } from '@/ui/frame/typed-word'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useState } from 'react'
import { countVariant } from './stock-actions'
import type { StockLine, StockRow, StockView } from './stock-view'

/** How many there are of each variant, to be counted here, and what moved them last. */
export function StockSection({ view, live }: { readonly view: StockView; readonly live: boolean }) {
  return (
    <section className="px-6 pt-5" aria-label="Stock">
      <h2 className="font-semibold">Stock</h2>
      <p className="text-soft">
        {view.backOrder
          ? 'More can be ordered than there is: it goes on back order.'
          : 'No more can be ordered than there is.'}{' '}
        Counts hold at once, in drafts too. Leave a count empty where nobody counts.
      </p>
      <table className="mt-1 w-full max-w-3xl">
        <thead>
          <tr className="border-b border-base-300 text-left text-soft">
            <th className="py-1 pr-4 font-normal">Variant</th>
            <th className="py-1 pr-4 text-right font-normal">On hand</th>
            <th className="py-1 pr-4 text-right font-normal">Promised to orders</th>
            <th className="py-1 text-right font-normal">Available</th>
          </tr>
        </thead>
        <tbody>
          {view.rows.map((row) => (
            <Row key={row.sku} row={row} live={live} />
          ))}
        </tbody>
      </table>
      {view.lines.length > 0 && <Movements lines={view.lines} isOne={view.rows.length === 1} />}
    </section>
  )
}

function Row({ row, live }: { readonly row: StockRow; readonly live: boolean }) {
  const { sku, name, onHand, reserved, available } = row
  const [problem, setProblem] = useState('')
  return (
    <tr className="border-b border-dotted border-base-300 align-baseline">
      <th scope="row" className="py-1 pr-4 text-left font-normal">
        <VantageLink href={recordHref('variant-records', sku)} className="link-name">
          {name}
        </VantageLink>{' '}
        <span className="text-2xs text-soft">{sku}</span>
        {problem && (
          <span role="alert" className="block text-error">
            {problem}
          </span>
        )}
      </th>
      <td className="py-1 pr-4 text-right tabular-nums">
        {live ? (
          <TypedWord
            key={`${onHand}`}
            label={`On hand of ${sku}`}
            value={onHand ?? ''}
            placeholder="not counted"
            isWrong={problem !== ''}
            isNumber
            width={11}
            onDone={(text) => void countVariant(sku, onHand, text).then((wrong) => setProblem(wrong ?? ''))}
          />
        ) : (
          (onHand ?? 'not counted')
        )}
      </td>
      <td className="py-1 pr-4 text-right tabular-nums">{reserved === '0' ? '–' : reserved}</td>
      <td className="py-1 text-right font-semibold tabular-nums">{available ?? '–'}</td>
    </tr>
  )
}

function Movements({ lines, isOne }: { readonly lines: readonly StockLine[]; readonly isOne: boolean }) {
  return (
    <ul className="max-w-3xl pt-2" aria-label="What moved stock">
      {lines.map(({ id, when, author, sku, what }) => (
        <li
          key={id}
          className="grid grid-cols-[170px_140px_1fr] gap-3 border-b border-dotted border-base-300 py-1"
        >
          <span className="text-soft">{when}</span>
          <span className="truncate">{author}</span>
          <span>
            {!isOne && <span className="text-soft">{sku} </span>}
            {what}
          </span>
        </li>
      ))}
    </ul>
  )
}
