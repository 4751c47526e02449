'use client'

import { useFrame } from '@/ui/frame/frame-context'
import type { StartDraft } from '@/ui/frame/new-draft'
import { formatDay, formatTime } from '@/ui/format/instant'
import { useState } from 'react'
import { isQuantity } from '@/ui/frame/vantage-url'
import { Scrubber } from '@/ui/picker/scrubber'
import { BuyerPicker } from './buyer-picker'
import { ChoiceWord } from './choice-word'
import { DraftWord } from './draft-word'
import { InstantPicker } from './instant-picker'
import type { VantageView } from './vantage-view'

/** The sentence every figure below is computed from; its words are controls. */
export function VantageSentence({
  view,
  startDraft,
}: {
  readonly view: VantageView
  readonly startDraft: StartDraft
}) {
  const { vantage, setVantage, scrubbed, scrub } = useFrame()
  const shown = scrubbed ?? vantage
  const buyer = view.buyers.find(({ as }) => as === vantage.as)
  return (
    <p className="flex min-w-0 flex-wrap items-baseline gap-x-1.5 text-sm" data-testid="vantage">
      <span className="text-soft">Looking as</span>
      <BuyerPicker
        buyers={view.buyers}
        current={buyer?.name ?? 'Guest'}
        onPick={(as) => setVantage({ as })}
      />
      <span className="text-soft">buying</span>
      <QuantityWord
        key={shown.buying}
        quantity={shown.buying}
        onChange={(buying) => setVantage({ buying })}
      />
      <Scrubber
        label="Move through quantities"
        hint="Drag sideways, or use the arrow keys, to see prices by quantity; with Shift in tens"
        value={vantage.buying}
        valueText={String(shown.buying)}
        min={1}
        max={LARGEST_SCRUBBED}
        onScrub={(buying) => scrub(buying === null ? null : { buying })}
        onSettle={(buying) => setVantage({ buying })}
      />
      {view.channels.length > 1 && (
        <>
          <span className="text-soft">in</span>
          <ChoiceWord
            label="Channel"
            choices={view.channels}
            chosen={vantage.channel}
            following={view.channels[0]?.code ?? ''}
            onPick={(channel) => setVantage({ channel })}
          />
        </>
      )}
      <span className="text-soft">delivered to</span>
      <ChoiceWord
        label="Delivered to"
        choices={view.places}
        chosen={vantage.deliverTo}
        chosenName={vantage.deliverTo && placeName(view.places, vantage.deliverTo)}
        following={view.following[vantage.as] ?? view.places[0]?.code ?? ''}
        onPick={(deliverTo) => setVantage({ deliverTo })}
      />
      <span className="text-soft">paying</span>
      <ChoiceWord
        label="Currency"
        choices={view.currencies.map((code) => ({ code, name: code }))}
        chosen={vantage.currency}
        following=""
        followingName="their currency"
        onPick={(currency) => setVantage({ currency })}
      />
      <span className="text-soft">on</span>
      <InstantPicker view={view} current={instantText(shown.on, view)} onPick={(on) => setVantage({ on })} />
      <Scrubber
        label="Move through days"
        hint="Drag sideways, or use the arrow keys, to see prices day by day; with Shift by ten days"
        value={daysFromNow(vantage.on, view)}
        valueText={instantText(shown.on, view)}
        min={-MOST_DAYS}
        max={MOST_DAYS}
        onScrub={(days) => scrub(days === null ? null : { on: dayFromNow(days, view) })}
        onSettle={(days) => setVantage({ on: dayFromNow(days, view) })}
      />
      <span className="text-soft">in</span>
      <DraftWord startDraft={startDraft} />
      {!buyer && (
        <span role="status" className="bg-warning px-2 text-xs font-semibold text-warning-content">
          There is no buyer “{vantage.as}” here; you look as a guest.
        </span>
      )}
      {shown.on !== null && new Date(shown.on) < new Date(view.now) && (
        <button
          type="button"
          className="bg-warning px-2 text-xs font-semibold text-warning-content"
          onClick={() => setVantage({ on: null })}
        >
          The past cannot be changed. Back to today
        </button>
      )}
    </p>
  )
}

/** Beyond it a quantity is typed. */
const LARGEST_SCRUBBED = 1000
/** Two years back and ahead. */
const MOST_DAYS = 730
const DAY = 86_400_000

function daysFromNow(on: string | null, { now }: VantageView): number {
  return on === null ? 0 : Math.round((Date.parse(on) - Date.parse(now)) / DAY)
}

/** The same time of day some days on, to the minute; today is now. */
function dayFromNow(days: number, { now }: VantageView): string | null {
  if (days === 0) return null
  return `${new Date(Date.parse(now) + days * DAY).toISOString().slice(0, 16)}Z`
}

function instantText(on: string | null, { timeZone, now }: VantageView): string {
  const instant = new Date(on ?? now)
  const day = formatDay(instant, timeZone)
  return `${day === formatDay(new Date(now), timeZone) ? 'today' : day}, ${formatTime(instant, timeZone)}`
}

function QuantityWord({
  quantity,
  onChange,
}: {
  readonly quantity: number
  readonly onChange: (quantity: number) => void
}) {
  const [typed, setTyped] = useState(String(quantity))
  const value = Number(typed)
  const wrong = !isQuantity(typed.trim())
  const submit = () => {
    if (!wrong && value !== quantity) onChange(value)
  }
  return (
    <span className="relative">
      <input
        aria-label="Quantity bought"
        aria-invalid={wrong}
        inputMode="numeric"
        className="bg-transparent word text-center aria-[invalid=true]:border-error aria-[invalid=true]:text-error"
        style={{ width: `${Math.max(2, typed.length + 1)}ch` }}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={submit}
        onKeyDown={(event) => {
          if (event.key === 'Enter') submit()
          if (event.key === 'Escape') setTyped(String(quantity))
        }}
      />
      {wrong && (
        <span
          role="alert"
          className="absolute top-full left-0 z-40 w-56 border border-error bg-base-100 px-2 py-1 text-xs text-error"
        >
          A quantity is a number above zero, up to 1,000,000.
        </span>
      )}
    </span>
  )
}

/** A whole address in words, as the shop's checkout leaves it behind: "Graz, 8020, Austria". */
function placeName(places: VantageView['places'], text: string): string {
  const [land = '', postcode, city] = text.split('/')
  const country = places.find(({ code }) => code === land)?.name ?? land
  return [city, postcode, country].filter(Boolean).join(', ')
}
