import 'server-only'

import { getSettings } from '@/core/store/store'
import { currentInstant } from '@/server/clock'
import { openDrafts } from '@/server/drafts/draft-rows'
import { calendarSpans, type CalendarSpan } from '@/server/engine/calendar-spans'
import type { Steppe } from '@/server/engine/steppe'
import { liveView } from '@/server/views/view'
import ical from 'ical-generator'

/** Every start and end as a calendar others can subscribe to (RFC 5545): one event an edge, in UTC. */
export async function calendarFeed(steppe: Steppe): Promise<string> {
  const { store } = liveView(steppe).prepared
  const calendar = ical({
    name: `${getSettings(store).name}: prices`,
    prodId: { company: 'Steppe', product: 'Price calendar', language: 'EN' },
  })
  const stamp = currentInstant()
  for (const span of calendarSpans(store, await openDrafts(steppe.database)).filter(({ isOn }) => isOn)) {
    for (const { at, word, id } of edgesOf(span)) {
      calendar.createEvent({
        id,
        stamp,
        // A moment, without an end: that would have to be later (RFC 5545, 3.8.2.2).
        start: new Date(at),
        summary: `${span.name} ${word}`,
        categories: [{ name: span.group }],
      })
    }
  }
  return calendar.toString()
}

function edgesOf({
  key,
  from,
  to,
}: CalendarSpan): readonly { readonly at: number; readonly word: string; readonly id: string }[] {
  const id = (edge: string) => `${key.replace('/', '-')}-${edge}@steppe`
  if (from === to) return [{ at: from, word: 'is published', id: id('published') }]
  return [
    { at: from, word: 'starts', id: id('start') },
    { at: to, word: 'ends', id: id('end') },
  ].filter(({ at }) => Number.isFinite(at))
}
