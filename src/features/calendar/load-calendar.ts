import 'server-only'

import { getSettings } from '@/core/store/store'
import { openDrafts } from '@/server/drafts/draft-rows'
import { calendarSpans, type CalendarSpan, SPAN_GROUPS } from '@/server/engine/calendar-spans'
import type { RequestContext } from '@/server/engine/request-context'
import { type EditableKind, sectionOf } from '@/sheet/record/sections'
import { whenSentence } from '@/ui/format/rule-phrases'
import { formatDay } from '@/ui/format/instant'
import { betweenHref } from '@/ui/frame/between-href'
import { recordHref } from '@/ui/frame/record-href'
import { type ItemLanes, itemLanes } from './item-lanes'

export interface SpanView {
  readonly key: string
  readonly name: string
  readonly href: string
  /** Shares of the drawn time, 0 to 1; open ends lie outside. */
  readonly from: number
  readonly to: number
  readonly isMoment: boolean
  readonly isOn: boolean
  /** Only in the draft that is looked through, or other than live. */
  readonly isOfDraft: boolean
  readonly isGap: boolean
  readonly about: string
  readonly words: string
  /** The instants at its edges, to look from; `null` where open. */
  readonly starts: string | null
  readonly ends: string | null
}

interface Event {
  readonly name: string
  readonly href: string
  readonly day: string
}

export interface CalendarView {
  readonly groups: readonly { readonly title: string; readonly spans: readonly SpanView[] }[]
  readonly months: readonly { readonly name: string; readonly at: number }[]
  readonly today: number
  /** The day looked from; `null` for today. */
  readonly looked: {
    readonly at: number
    readonly text: string
    readonly days: number
    /** What changes for whom between today and then. */
    readonly changesHref: string
  } | null
  readonly started: readonly Event[]
  readonly over: readonly Event[]
  readonly next: readonly Event[]
  readonly gaps: readonly Event[]
  readonly item: ItemLanes
  readonly timeZone: string
}

const DAY = 86_400_000
const BACK = 60 * DAY
const AHEAD = 400 * DAY
const MOST_NEXT = 6

/** What starts and ends when, around today. */
export async function loadCalendar(requestContext: RequestContext, sku = ''): Promise<CalendarView> {
  const { view, steppe, vantage, now } = requestContext
  const { store } = view.prepared
  const { timeZone } = getSettings(store)
  const [start, end] = [now - BACK, now + AHEAD]
  const share = (at: number) => (at - start) / (end - start)
  const drafts = await openDrafts(steppe.database)
  const spans = calendarSpans(store, drafts)
  const live = view.draft
    ? new Map(calendarSpans(view.draft.live.store, drafts).map((span) => [span.key, span]))
    : null
  const day = (at: number) => formatDay(new Date(at), timeZone)
  const hrefOf = ({ kind, code }: CalendarSpan) =>
    kind === 'draft'
      ? `/drafts/${encodeURIComponent(code)}`
      : recordHref(sectionOf(kind as EditableKind).path, code)
  const minute = (at: number) => (Number.isFinite(at) ? `${new Date(at).toISOString().slice(0, 16)}Z` : null)
  const toView = (span: CalendarSpan): SpanView => {
    const was = live?.get(span.key)
    const { key, name, from, to, isOn, isGap, recurring } = span
    return {
      key,
      name,
      href: hrefOf(span),
      from: Math.max(-0.01, share(from)),
      to: Math.min(1.01, share(to)),
      isMoment: from === to,
      isOn,
      isOfDraft: live !== null && (!was || was.from !== from || was.to !== to || was.isOn !== isOn),
      isGap,
      about: [
        isOn ? '' : 'switched off',
        recurring ? whenSentence({ ...recurring, from: null, to: null }) : '',
      ]
        .filter(Boolean)
        .join(', '),
      words: `${Number.isFinite(from) ? day(from) : 'always'} to ${Number.isFinite(to) ? day(to) : 'no end'}`,
      starts: minute(from),
      ends: minute(to),
    }
  }
  const event = (span: CalendarSpan, at: number): Event => ({
    name: span.name,
    href: hrefOf(span),
    day: day(at),
  })
  const at = vantage.on === null ? now : Date.parse(vantage.on)
  const between = (edge: 'from' | 'to', low: number, high: number) =>
    spans
      .filter(
        (span) =>
          span.isOn && span[edge] > low && span[edge] <= high && (edge === 'from' || span.from !== span.to),
      )
      .sort((left, right) => left[edge] - right[edge])
      .map((span) => event(span, span[edge]))
  return {
    groups: SPAN_GROUPS.map((title) => ({
      title,
      spans: spans
        .filter(({ group, to }) => group === title && to > start)
        .sort((left, right) => left.from - right.from || (left.name < right.name ? -1 : 1))
        .map(toView),
    })).filter((group) => group.spans.length > 0),
    months: monthsBetween(start, end, timeZone).map(({ name, at: first }) => ({ name, at: share(first) })),
    today: share(now),
    looked:
      vantage.on === null
        ? null
        : {
            at: share(at),
            text: day(at),
            days: Math.round((at - now) / DAY),
            changesHref: betweenHref(new Date(Math.min(now, at)), new Date(Math.max(now, at))),
          },
    started: between('from', Math.min(now, at), Math.max(now, at)),
    over: between('to', Math.min(now, at), Math.max(now, at)),
    next: between('from', Math.max(now, at), end).slice(0, MOST_NEXT),
    gaps: spans
      .filter(({ isGap, to }) => isGap && to > now - BACK)
      .sort((left, right) => left.to - right.to)
      .map((span) => event(span, span.to)),
    item: itemLanes(requestContext, sku.trim(), { start, end, day }),
    timeZone,
  }
}

function monthsBetween(start: number, end: number, timeZone: string) {
  const months: { name: string; at: number }[] = []
  const first = new Date(start)
  for (let year = first.getUTCFullYear(), month = first.getUTCMonth() + 1; ; month += 1) {
    const at = Date.UTC(year, month, 1)
    if (at > end) return months
    const date = new Date(at)
    const isJanuary = date.getUTCMonth() === 0
    const name = new Intl.DateTimeFormat('en-IE', {
      month: 'short',
      ...(isJanuary && { year: '2-digit' }),
      timeZone,
    })
    months.push({ name: name.format(date), at })
  }
}
