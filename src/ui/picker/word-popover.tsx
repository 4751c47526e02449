'use client'

import { type ReactNode, useState } from 'react'
import { Button, Dialog, DialogTrigger, Popover } from 'react-aria-components'

interface WordPopoverProps {
  /** The word as it stands in the sentence. */
  readonly word: string
  /** What the word is, for people who cannot see the sentence. */
  readonly label: string
  readonly disabled: boolean
  /** The control; `close` ends the edit. */
  readonly children: (close: () => void) => ReactNode
}

/** A word of a sentence that opens into the control that changes it. */
export function WordPopover({ word, label, disabled, children }: WordPopoverProps) {
  const [open, setOpen] = useState(false)
  return (
    <DialogTrigger isOpen={open} onOpenChange={setOpen}>
      <Button
        isDisabled={disabled}
        aria-label={`${label}: ${word}. Change`}
        className="word text-left align-baseline leading-5 !whitespace-normal disabled:border-transparent"
      >
        {word}
      </Button>
      <Popover
        className="flex max-h-[26rem] w-80 flex-col overflow-auto border border-base-300 bg-base-100"
        placement="bottom start"
      >
        <Dialog aria-label={label} className="flex min-h-0 flex-col outline-none">
          {children(() => setOpen(false))}
        </Dialog>
      </Popover>
    </DialogTrigger>
  )
}
