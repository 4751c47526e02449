'use client'

import type { AgreedWith } from '@/sheet/price-lines/party'
import { useState } from 'react'
import type { QuoteView } from './offer-view'

interface KeepPricesFormProps {
  readonly keepers: QuoteView['keepers']
  readonly isBusy: boolean
  readonly onKeep: (party: AgreedWith) => void
  readonly onBack: () => void
}

/** Where the offered prices hold from now on, when there is more than one place. */
export function KeepPricesForm({ keepers, isBusy, onKeep, onBack }: KeepPricesFormProps) {
  const [at, setAt] = useState(0)
  return (
    <form
      className="flex items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        const keeper = keepers[at]
        if (keeper) onKeep(keeper.party)
      }}
      onKeyDown={(event) => event.key === 'Escape' && onBack()}
    >
      <label className="flex-1">
        <span className="block text-xs text-soft">
          Where these prices hold from now on, once the draft is published
        </span>
        <select
          autoFocus
          className="w-full max-w-xl rounded-field border border-base-300 bg-lifted px-2 py-1"
          value={at}
          onChange={(event) => setAt(Number(event.target.value))}
        >
          {keepers.map(({ party, name }, place) => (
            <option key={`${party.kind} ${party.id}`} value={place}>
              As {name}
            </option>
          ))}
        </select>
      </label>
      <button type="button" className="btn btn-sm" onClick={onBack}>
        Back
      </button>
      <button type="submit" className="btn btn-primary btn-sm" disabled={isBusy}>
        Put into a draft
      </button>
    </form>
  )
}
