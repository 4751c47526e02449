'use client'

import { colourName, NAMED_COLOURS, shopColours, type ShopColours } from '@/ui/theme/shop-colours'
import { useState } from 'react'
import { PickerPanel } from '../panel/picker-panel'
import { Key } from '../panel/picker-parts'
import { useDone } from '../panel/use-done'
import type { StripProps } from './strip'

const USUAL = { day: '#4f6b2a', night: '#a3c06f' }

/** The shop’s colour: one that goes with it, or any other; shown as the shop uses it by day and by night. */
export function ColourStrip({ label, initial, onDone, onCancel, onChange }: StripProps) {
  const [colour, setColour] = useState(initial)
  const { problem, isBusy, done } = useDone(onDone)
  const choose = (next: string) => {
    setColour(next)
    onChange?.(colourName(next))
  }
  const isWhole = colour === '' || /^#[0-9a-f]{6}$/i.test(colour)
  const colours = isWhole ? shopColours(colour) : null
  return (
    <PickerPanel
      label={label}
      problem={problem}
      isBusy={isBusy}
      keys={
        <>
          <Key>←</Key> <Key>→</Key> choose · <Key>Enter</Key> keeps it
        </>
      }
      onDone={() => void done(colour)}
      onCancel={onCancel}
      foot={
        <span className="text-soft">
          Made darker by day and lighter by night where it could not be read otherwise.
        </span>
      }
    >
      <div className="flex flex-wrap items-center gap-x-8 gap-y-3 px-6 py-3">
        <div role="radiogroup" aria-label="Colours" className="flex flex-wrap gap-2">
          {NAMED_COLOURS.map(([each, name], at) => (
            <label key={name} className="flex cursor-pointer flex-col items-center gap-1">
              <input
                type="radio"
                name="shop-colour"
                className="peer sr-only"
                aria-label={name}
                autoFocus={colour === each || (at === 0 && !NAMED_COLOURS.some(([one]) => one === colour))}
                checked={colour === each}
                onChange={() => choose(each)}
              />
              <span
                className="size-9 rounded-full outline-offset-2 peer-checked:outline-2 peer-focus-visible:outline-3 peer-focus-visible:outline-secondary"
                style={{ background: each || USUAL.day }}
              />
              <span className="text-xs text-soft">{name}</span>
            </label>
          ))}
        </div>
        <label className="flex items-center gap-2">
          <span className="text-soft">Another one</span>
          <input
            type="color"
            aria-label="Choose any colour"
            className="h-8 w-10 cursor-pointer border border-base-300 bg-lifted"
            value={isWhole ? colour || USUAL.day : USUAL.day}
            onChange={(event) => choose(event.target.value)}
          />
          <input
            aria-label="As six hexadecimal digits"
            placeholder={USUAL.day}
            className="w-24 border border-base-300 bg-lifted px-2 py-0.5"
            value={colour}
            onChange={(event) => choose(event.target.value.trim().toLowerCase())}
          />
        </label>
        <div className="flex gap-3" aria-hidden>
          <Sample page="#faf7ef" ink="#26231b" colours={colours?.day ?? usual(USUAL.day, '#fffdf6')} />
          <Sample page="#1c1a15" ink="#ebe4d2" colours={colours?.night ?? usual(USUAL.night, '#191710')} />
        </div>
      </div>
    </PickerPanel>
  )
}

function usual(primary: string, onPrimary: string): ShopColours {
  return { primary, onPrimary }
}

function Sample({
  page,
  ink,
  colours: { primary, onPrimary },
}: {
  readonly page: string
  readonly ink: string
  readonly colours: ShopColours
}) {
  return (
    <div
      className="flex items-center gap-3 border border-base-300 px-4 py-3"
      style={{ background: page, color: ink }}
    >
      <b style={{ color: primary }}>Your shop</b>
      <span>25.90</span>
      <span className="px-3 py-1 font-semibold" style={{ background: primary, color: onPrimary }}>
        Add to cart
      </span>
    </div>
  )
}
