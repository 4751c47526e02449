'use client'

import type { DeskContent } from '@/server/desk/desk-shape'
import { formatAmount } from '@/ui/format/amount'
import { useAnswer } from '@/ui/frame/use-answer'
import { type KeyboardEvent, type RefObject, useMemo, useState } from 'react'
import type { DeskFound } from './desk-view'

interface DeskFindProps {
  readonly content: DeskContent
  readonly field: RefObject<HTMLInputElement | null>
  readonly digits: number
  readonly priceDigits: number
  readonly onAdd: (sku: string, quantity: string) => void
  /** Where the arrow goes from an empty field. */
  readonly onDown: () => void
}

const NOTHING_FOUND = { first: { found: [] as readonly DeskFound[] }, firstOf: null, rest: 120 }

/** A SKU or words, and how many: what is found stands below it at the buyer's price, and Enter adds it. */
export function DeskFind({ content, field, digits, priceDigits, onAdd, onDown }: DeskFindProps) {
  const [text, setText] = useState('')
  const [at, setAt] = useState(0)
  const { words, quantity } = readTyped(text)
  const question = useMemo(
    () => (words === '' ? null : { content: { ...content, lines: [] }, words, quantity }),
    [words, quantity, content],
  )
  const { answer, isSettled, isOff } = useAnswer('/api/desk/find', question, NOTHING_FOUND)
  const items = words === '' ? [] : answer.found
  const chosen = Math.min(at, Math.max(0, items.length - 1))

  function onKey(event: KeyboardEvent): void {
    if (event.key === 'Enter' && !event.ctrlKey && !event.metaKey) {
      event.preventDefault()
      const item = isSettled ? items[chosen] : undefined
      if (!item) return
      onAdd(item.sku, quantity)
      setText('')
      setAt(0)
    } else if (event.key === 'ArrowDown') {
      event.preventDefault()
      if (items.length === 0) onDown()
      else setAt(Math.min(chosen + 1, items.length - 1))
    } else if (event.key === 'ArrowUp') {
      event.preventDefault()
      setAt(Math.max(0, chosen - 1))
    } else if (event.key === 'Escape') {
      setText('')
      setAt(0)
    }
  }
  return (
    <div className="pt-2">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
        <input
          ref={field}
          autoFocus
          autoComplete="off"
          spellCheck={false}
          aria-label="SKU or words, and how many"
          data-settled={isSettled}
          className="h-9 w-[28rem] max-w-full rounded-field border-2 border-info bg-lifted px-3 text-base"
          placeholder="SKU or words, and how many: fr-su 20"
          value={text}
          onChange={(event) => {
            setText(event.target.value)
            setAt(0)
          }}
          onKeyDown={onKey}
        />
        {items.length > 0 && (
          <span className="text-xs text-soft">
            <kbd className="kbd kbd-xs">Enter</kbd> adds {quantity} of the marked one{' '}
            <kbd className="kbd kbd-xs">↓</kbd> the next
          </span>
        )}
      </div>
      {words !== '' && isOff && (
        <p role="alert" className="pt-1 text-error">
          The server does not answer. Type on to ask again.
        </p>
      )}
      {words !== '' && isSettled && items.length === 0 && (
        <p role="status" className="pt-1 text-soft">
          Nothing is called so.
        </p>
      )}
      {items.length > 0 && (
        <table className="mt-1 w-full" aria-label="Found">
          <tbody>
            {items.map((item, place) => (
              <tr
                key={item.sku}
                aria-selected={place === chosen}
                className={`cursor-pointer border-b border-dotted border-base-300 ${place === chosen ? 'bg-chosen' : ''}`}
                onClick={() => {
                  onAdd(item.sku, quantity)
                  setText('')
                  field.current?.focus()
                }}
              >
                <td className="w-24 py-1 pl-1.5 text-xs font-semibold">{item.sku}</td>
                <td className="py-1">{item.name}</td>
                <td className="py-1 text-right tabular-nums">{quantity}</td>
                <td className="w-20 py-1 text-right tabular-nums">
                  {item.unit === null ? '–' : formatAmount(item.unit, priceDigits)}
                </td>
                <td className="w-36 py-1 pl-6 text-xs text-soft">{item.how}</td>
                <td className="w-16 py-1 text-right text-xs text-soft">{item.tax}</td>
                <td className="w-24 py-1 pr-1.5 text-right tabular-nums">
                  {item.total === null ? '–' : formatAmount(item.total, digits)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  )
}

/** "fr-su 20" and "20 fr-su" are twenty; without a number it is one. */
function readTyped(text: string): { readonly words: string; readonly quantity: string } {
  const typed = text.trim()
  const last = /^(.+?)\s+(\d{1,6}(?:[.,]\d{1,3})?)$/.exec(typed)
  if (last) return { words: last[1] as string, quantity: last[2] as string }
  const first = /^(\d{1,6})\s*[x×]?\s+(.+)$/.exec(typed)
  return first ? { words: first[2] as string, quantity: first[1] as string } : { words: typed, quantity: '1' }
}
