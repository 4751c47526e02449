'use client'

import { parseAbsolute, parseDateTime, toCalendarDateTime, toZoned } from '@internationalized/date'
import { useState } from 'react'
import { Button, Dialog, DialogTrigger, Popover } from 'react-aria-components'
import type { VantageView } from './vantage-view'

interface InstantPickerProps {
  readonly view: VantageView
  readonly current: string
  /** The instant in UTC to the minute; `null` is now. */
  readonly onPick: (on: string | null) => void
}

/** A word of the vantage sentence that opens into moments of the past and a date of one's own. */
export function InstantPicker({ view, current, onPick }: InstantPickerProps) {
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState(() => toLocal(view.now, view.timeZone))
  const pick = (on: string | null) => {
    onPick(on)
    setOpen(false)
  }
  return (
    <DialogTrigger isOpen={open} onOpenChange={setOpen}>
      <Button className="word" aria-label={`On ${current}. Change`}>
        {current}
      </Button>
      <Popover className="w-96 border border-base-300 bg-base-100" placement="bottom start">
        <Dialog aria-label="Look at a moment" className="outline-none">
          <ul className="max-h-60 overflow-auto py-1">
            <li>
              <button
                type="button"
                className="w-full px-3 py-1 text-left font-medium hover:bg-chosen"
                onClick={() => pick(null)}
              >
                Now
              </button>
            </li>
            {view.moments.map(({ on, label }) => (
              <li key={`${on} ${label}`}>
                <button
                  type="button"
                  className="w-full truncate px-3 py-1 text-left hover:bg-chosen"
                  onClick={() => pick(on)}
                >
                  {label}
                </button>
              </li>
            ))}
          </ul>
          <form
            className="flex items-center gap-2 border-t border-base-300 px-3 py-2"
            onSubmit={(event) => {
              event.preventDefault()
              const instant = toUtcMinute(typed, view.timeZone)
              if (instant !== null) pick(instant)
            }}
          >
            <label className="flex items-center gap-2 text-soft">
              At
              <input
                type="datetime-local"
                required
                className="border border-base-300 bg-lifted px-2 py-1 text-base-content"
                value={typed}
                onChange={(event) => setTyped(event.target.value)}
              />
            </label>
            <button type="submit" className="btn btn-primary btn-sm">
              Look
            </button>
          </form>
          <p className="px-3 pb-2 text-xs text-soft">In the store’s time, {view.timeZone}.</p>
        </Dialog>
      </Popover>
    </DialogTrigger>
  )
}

function toLocal(instant: string, timeZone: string): string {
  return toCalendarDateTime(parseAbsolute(instant, timeZone)).toString().slice(0, 16)
}

function toUtcMinute(local: string, timeZone: string): string | null {
  try {
    return `${toZoned(parseDateTime(local), timeZone).toAbsoluteString().slice(0, 16)}Z`
  } catch {
    return null
  }
}
