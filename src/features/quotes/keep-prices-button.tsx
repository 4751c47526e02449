'use client'

import type { AgreedWith } from '@/sheet/price-lines/party'
import { useState } from 'react'
import type { QuoteView } from './offer-view'

interface KeepPricesProps {
  readonly view: QuoteView
  readonly isBusy: boolean
  readonly onKeep: (party: AgreedWith) => void
}

/** Puts the offered prices where they hold from now on: where there is more than one place, it is chosen first. */
export function KeepPrices({ view: { keepers }, isBusy, onKeep }: KeepPricesProps) {
  const [at, setAt] = useState<number | null>(null)
  const [only, ...others] = keepers
  if (!only) return null
  if (others.length === 0)
    return (
      <button type="button" className="link-name" disabled={isBusy} onClick={() => onKeep(only.party)}>
        Make these their own prices
      </button>
    )
  if (at === null)
    return (
      <button type="button" className="link-name" onClick={() => setAt(0)}>
        Keep these prices …
      </button>
    )
  return (
    <form
      className="flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        onKeep((keepers[at] ?? only).party)
      }}
      onKeyDown={(event) => event.key === 'Escape' && setAt(null)}
    >
      <label className="flex items-center gap-2">
        <span className="text-soft">as</span>
        <select
          autoFocus
          className="max-w-80 rounded-field border border-base-300 bg-lifted px-2 py-1"
          value={at}
          onChange={(event) => setAt(Number(event.target.value))}
        >
          {keepers.map(({ party, name }, place) => (
            <option key={`${party.kind} ${party.id}`} value={place}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <button type="submit" className="btn btn-sm" disabled={isBusy}>
        Put into a draft
      </button>
      <button type="button" className="link-name" onClick={() => setAt(null)}>
        Back
      </button>
    </form>
  )
}
