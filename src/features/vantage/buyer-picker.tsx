'use client'

import type { BuyerCode } from '@/core/buyers/buyer-code'
import { useState } from 'react'
import {
  Autocomplete,
  Button,
  Dialog,
  DialogTrigger,
  Header,
  Input,
  ListBox,
  ListBoxItem,
  ListBoxSection,
  Popover,
  SearchField,
  useFilter,
} from 'react-aria-components'
import type { BuyerChoice } from './vantage-view'

interface BuyerPickerProps {
  readonly buyers: readonly BuyerChoice[]
  readonly current: string
  readonly onPick: (as: BuyerCode) => void
}

const SECTIONS = ['Everyone', 'Groups', 'Accounts'] as const

/** A word of the vantage sentence that opens into everybody one can look as. */
export function BuyerPicker({ buyers, current, onPick }: BuyerPickerProps) {
  const [open, setOpen] = useState(false)
  const { contains } = useFilter({ sensitivity: 'base' })
  return (
    <DialogTrigger isOpen={open} onOpenChange={setOpen}>
      <Button className="word" aria-label={`Looking as ${current}. Change`}>
        {current}
      </Button>
      <Popover className="w-80 border border-base-300 bg-base-100" placement="bottom start">
        <Dialog aria-label="Look as" className="flex min-h-0 flex-col outline-none">
          <Autocomplete filter={contains}>
            <SearchField autoFocus aria-label="Find a buyer" className="border-b border-base-300">
              <Input
                placeholder="Find a group or an account"
                className="w-full bg-transparent px-3 py-2 outline-none"
              />
            </SearchField>
            <div
              role="region"
              aria-label="All of them"
              tabIndex={0}
              className="max-h-72 min-h-0 flex-1 overflow-auto"
            >
              <ListBox
                aria-label="Buyers"
                className="py-1 outline-none"
                selectionMode="single"
                onAction={(key) => {
                  onPick(key as BuyerCode)
                  setOpen(false)
                }}
                renderEmptyState={() => <p className="px-3 py-2 text-soft">Nobody is called that.</p>}
              >
                {SECTIONS.map((section) => (
                  <ListBoxSection key={section} id={section}>
                    <Header className="px-3 pt-2 pb-0.5 text-2xs font-semibold text-soft">{section}</Header>
                    {buyers
                      .filter((buyer) => buyer.section === section)
                      .map((buyer) => (
                        <ListBoxItem
                          key={buyer.as}
                          id={buyer.as}
                          textValue={`${buyer.name} ${buyer.about}`}
                          className="flex cursor-pointer justify-between gap-3 px-3 py-1 outline-none data-[focused]:bg-chosen"
                        >
                          <span className="font-medium">{buyer.name}</span>
                          <span className="truncate text-soft">{buyer.about}</span>
                        </ListBoxItem>
                      ))}
                  </ListBoxSection>
                ))}
              </ListBox>
            </div>
          </Autocomplete>
        </Dialog>
      </Popover>
    </DialogTrigger>
  )
}
