'use client'

import { useLoaded } from '@/ui/frame/use-loaded'
import { useState } from 'react'
import type { OfferFigures } from './offer-view'
import type { OfferBeingWritten } from './use-offer'

interface AddOfferLineProps {
  readonly focused: number
  readonly offer: OfferBeingWritten
  readonly figures: OfferFigures
}

/** Adds an item by SKU or words: as a line of its own, or to be taken instead of the line that is looked at. */
export function AddOfferLine({ focused, offer, figures }: AddOfferLineProps) {
  const [text, setText] = useState('')
  const [isInstead, setInstead] = useState(false)
  const words = text.trim()
  const { value } = useLoaded<{
    readonly words: string
    readonly found: readonly { readonly sku: string; readonly name: string }[]
  }>(words === '' ? null : `/api/variants?words=${encodeURIComponent(words)}`, 0)
  const isSettled = value?.words === words
  const found = words === '' ? [] : (value?.found ?? [])
  const line = offer.working.lines[focused]
  const mayReplace = line !== undefined && line.insteadOf === null

  function add(sku: string): void {
    offer.addLine({
      ...{ sku, extras: [], price: '', asked: null, note: '' },
      quantity: isInstead && line ? line.quantity : '1',
      insteadOf: isInstead && mayReplace ? focused : null,
    })
    setText('')
    setInstead(false)
  }
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <input
        className="w-64 rounded-field border border-base-300 bg-lifted px-2 py-0.5"
        aria-label="Add an item"
        placeholder="Add an item: SKU or words"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && found[0] && isSettled) add(found[0].sku)
          if (event.key === 'Escape') setText('')
        }}
      />
      {mayReplace && (
        <label className="flex items-baseline gap-1.5 text-soft">
          <input type="checkbox" checked={isInstead} onChange={(event) => setInstead(event.target.checked)} />
          instead of {figures.lines[focused]?.name ?? line.sku}
        </label>
      )}
      {words !== '' && (
        <ul className="w-full" aria-label="Items found">
          {found.map(({ sku, name }) => (
            <li key={sku}>
              <button type="button" className="link-name" onClick={() => add(sku)}>
                {sku}
              </button>{' '}
              <span className="text-soft">{name}</span>
            </li>
          ))}
          {value && found.length === 0 && <li className="text-soft">Nothing is called so.</li>}
        </ul>
      )}
    </div>
  )
}
