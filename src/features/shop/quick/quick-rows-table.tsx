'use client'

import { QuickRowResult } from './quick-row-result'
import type { QuickRows } from './use-quick-rows'

interface QuickRowsTableProps {
  readonly quick: QuickRows
  readonly label: string
  /** Whether a price each can be wished for. */
  readonly hasWish?: boolean
}

/** The rows themselves: what is typed on the left, what it comes to on the right. */
export function QuickRowsTable({ quick, label, hasWish = false }: QuickRowsTableProps) {
  const { rows, order, isSettled, table, set, onKey, onPaste } = quick
  return (
    <table ref={table} className="w-full" aria-label={label} aria-busy={!isSettled} data-ready={isSettled}>
      <thead className="max-sm:sr-only">
        <tr className="border-b border-base-content text-left text-xs text-soft">
          <th className="w-36 py-1 pl-3 font-normal">SKU</th>
          <th className="w-20 py-1 pr-3 text-right font-normal">Quantity</th>
          <th className="py-1 pl-3 font-normal">Item</th>
          <th className="w-24 py-1 text-right font-normal">Unit price</th>
          <th className="w-28 py-1 text-right font-normal">Line total</th>
          {hasWish && <th className="w-28 py-1 pr-3 text-right font-normal">Your wish, each</th>}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, at) => {
          const result = order.rows[at] ?? { kind: 'empty' as const }
          const isWrong = result.kind === 'wrong' || result.kind === 'unknown'
          return (
            <tr
              key={at}
              className={`border-b border-base-300 max-sm:grid max-sm:grid-cols-[1fr_5rem] ${isWrong ? 'border-l-4 border-l-error' : ''}`}
            >
              <td className="bg-lifted">
                <input
                  data-row={at}
                  data-field="sku"
                  aria-label={`SKU of line ${at + 1}`}
                  aria-invalid={result.kind === 'unknown'}
                  autoComplete="off"
                  autoCapitalize="characters"
                  spellCheck={false}
                  className="w-full bg-transparent px-3 py-2.5 text-base"
                  value={row.sku}
                  onChange={(event) => set(at, { sku: event.target.value })}
                  onKeyDown={(event) => onKey(event, at, 'sku')}
                  onPaste={(event) => onPaste(event, at)}
                />
              </td>
              <td className="bg-lifted sm:border-r sm:border-base-300">
                <input
                  data-row={at}
                  data-field="quantity"
                  aria-label={`Quantity of line ${at + 1}`}
                  aria-invalid={result.kind === 'wrong'}
                  autoComplete="off"
                  inputMode="decimal"
                  className="w-full bg-transparent px-3 py-2.5 text-right text-base tabular-nums"
                  value={row.quantity}
                  onChange={(event) => set(at, { quantity: event.target.value })}
                  onFocus={(event) => {
                    if (row.sku.trim() !== '' && row.quantity === '') set(at, { quantity: '1' })
                    // What is typed next takes the place of what stands there.
                    const field = event.currentTarget
                    requestAnimationFrame(() => {
                      if (document.activeElement === field && field.value === '1') field.select()
                    })
                  }}
                  onKeyDown={(event) => onKey(event, at, 'quantity')}
                />
              </td>
              <QuickRowResult
                result={result}
                isLast={at === rows.length - 1}
                digits={order.digits}
                priceDigits={order.priceDigits}
                typed={row.sku}
                onSku={(sku) => set(at, { sku })}
                onQuantity={(quantity) => set(at, { quantity })}
              />
              {hasWish && (
                <td className="bg-lifted">
                  <input
                    data-row={at}
                    data-field="wish"
                    aria-label={`Wished price of line ${at + 1}`}
                    autoComplete="off"
                    inputMode="decimal"
                    className="w-full bg-transparent px-3 py-2.5 text-right text-base tabular-nums max-sm:border-t max-sm:border-base-300"
                    placeholder={result.kind === 'ready' ? 'wish, if any' : ''}
                    value={row.wish ?? ''}
                    onChange={(event) => set(at, { wish: event.target.value })}
                    onKeyDown={(event) => onKey(event, at, 'wish')}
                  />
                </td>
              )}
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
