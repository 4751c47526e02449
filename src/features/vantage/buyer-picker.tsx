'use client'

import type { BuyerCode } from '@/core/buyers/buyer-code'
import { SearchList } from '@/ui/picker/search-list'
import { WordPopover } from '@/ui/picker/word-popover'
import type { BuyerChoice } from './vantage-view'

interface BuyerPickerProps {
  readonly buyers: readonly BuyerChoice[]
  readonly current: string
  readonly onPick: (as: BuyerCode) => void
}

const SECTIONS = ['Everyone', 'Groups', 'Accounts', 'Tags, passcodes and e-mails']

/** A word of the vantage sentence that opens into everybody one can look as. */
export function BuyerPicker({ buyers, current, onPick }: BuyerPickerProps) {
  return (
    <WordPopover word={current} label="Looking as" disabled={false}>
      {(close) => (
        <SearchList
          label="Buyers"
          searchLabel="Find a buyer"
          placeholder="Find a group or an account"
          sections={SECTIONS}
          items={buyers.map((buyer) => ({ ...buyer, key: buyer.as }))}
          renderItem={({ name, about }) => (
            <>
              <span className="flex-1 font-medium">{name}</span>
              <span className="truncate text-soft">{about}</span>
            </>
          )}
          choice={{
            selectionMode: 'single',
            onAction: (key) => {
              onPick(key as BuyerCode)
              close()
            },
          }}
        />
      )}
    </WordPopover>
  )
}
