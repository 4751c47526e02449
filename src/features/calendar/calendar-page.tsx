import { VantageLink } from '@/ui/frame/vantage-link'
import { ItemLanesView } from './item-lanes-view'
import type { CalendarView, SpanView } from './load-calendar'

/** What starts and ends when, on one time axis. */
export function CalendarPage({ view }: { readonly view: CalendarView }) {
  return (
    <div className="flex min-h-0 flex-1">
      <section className="min-h-0 min-w-0 flex-1 overflow-auto px-6 pt-3 pb-8" aria-label="Calendar">
        <header className="flex flex-wrap items-baseline gap-x-4 pb-2">
          <h1 className="text-xl leading-7 font-semibold">Calendar</h1>
          <p className="text-soft">
            What starts and ends when, in {view.timeZone.split('/').at(-1)?.replace('_', ' ')} time. Choose an
            edge to look from that moment.
          </p>
          <a className="ml-auto link-name" href="/api/calendar" download="steppe.ics">
            Subscribe (.ics)
          </a>
        </header>
        {view.groups.length === 0 && <p className="py-4 text-soft">Nothing has a beginning or an end.</p>}
        <div className="relative">
          <Axis view={view} />
          <ItemLanesView lanes={view.item} names={NAMES} />
          {view.groups.map(({ title, spans }) => (
            <section key={title} aria-label={title}>
              <h2 className="border-b border-base-300 py-1 text-xs font-semibold text-soft">{title}</h2>
              <ul>
                {spans.map((span) => (
                  <Span key={span.key} span={span} />
                ))}
              </ul>
            </section>
          ))}
          <Marks view={view} />
        </div>
        <p className="flex flex-wrap gap-x-5 pt-3 text-xs text-soft">
          <span>
            <span aria-hidden className="mr-1.5 inline-block h-2.5 w-6 border border-base-300 bg-hatched" />
            nothing follows
          </span>
          <span>
            <span
              aria-hidden
              className="mr-1.5 inline-block h-2.5 w-6 border border-dashed border-accent bg-warning"
            />
            other in the draft
          </span>
          <span>
            <span aria-hidden className="mr-1.5 inline-block h-2.5 w-6 border border-base-300" />
            switched off{view.item.lanes.length > 0 && ', or another one decides'}
          </span>
        </p>
      </section>
      <aside
        className="w-[272px] shrink-0 overflow-auto border-l border-base-300 bg-lifted px-4 pt-4 pb-8"
        aria-label="By then"
      >
        <Side view={view} />
      </aside>
    </div>
  )
}

/** The names stand in a column of their own. */
const NAMES = 'w-48 shrink-0 pr-3'

function Axis({ view: { months } }: { readonly view: CalendarView }) {
  return (
    <div className="flex border-b border-base-content pb-1 text-xs text-soft">
      <span className={NAMES} />
      <span className="relative h-4 flex-1">
        {months
          .filter(({ at }) => at < 0.97)
          .map(({ name, at }) => (
            <span key={at} className="absolute pl-1 whitespace-nowrap" style={{ left: `${at * 100}%` }}>
              {name}
            </span>
          ))}
      </span>
    </div>
  )
}

/** Lines through all rows: today, and the day looked from. */
function Marks({ view: { today, looked } }: { readonly view: CalendarView }) {
  return (
    <div aria-hidden className="pointer-events-none absolute inset-0 flex">
      <span className={NAMES} />
      <span className="relative flex-1">
        <span className="absolute inset-y-0 w-px bg-base-content" style={{ left: `${today * 100}%` }} />
        {looked && looked.at > 0 && looked.at < 1 && (
          <span className="absolute inset-y-0 w-0.5 bg-secondary" style={{ left: `${looked.at * 100}%` }} />
        )}
      </span>
    </div>
  )
}

/** A bar that ends further to the right has its words on itself. */
const MOST_ABOUT = 0.7

function Span({ span }: { readonly span: SpanView }) {
  const { name, href, from, to, isMoment, isOn, isOfDraft, isGap, about, words, starts, ends } = span
  const fill = !isOn
    ? 'border border-base-300'
    : isOfDraft
      ? 'border border-dashed border-accent bg-warning'
      : 'border border-primary/50 bg-bar'
  return (
    <li className="flex items-center border-b border-base-300 py-1">
      <VantageLink
        href={href}
        className={`truncate hover:underline ${NAMES} ${isOn ? '' : 'text-soft'}`}
        title={name}
      >
        {name}
      </VantageLink>
      <span className="relative z-10 h-4 flex-1">
        {isMoment ? (
          <VantageLink
            href="/board"
            lookOn={starts ?? ''}
            title={`Published on ${words.split(' to ')[0]}`}
            className="absolute top-0.5 h-3 w-3 rotate-45 bg-accent"
            style={{ left: `calc(${from * 100}% - 6px)` }}
            aria-label={`Look from when ${name} is published`}
          />
        ) : (
          <>
            <span
              title={`${name}, ${words}`}
              className={`absolute inset-y-0.5 ${fill}`}
              style={{
                left: `${Math.max(0, from) * 100}%`,
                width: `${Math.max(0.3, (Math.min(1, to) - Math.max(0, from)) * 100)}%`,
              }}
            />
            {isGap && to < 1 && (
              <span
                className="absolute inset-y-0.5 border border-base-300 bg-hatched"
                style={{ left: `${Math.max(0, to) * 100}%`, right: 0 }}
              />
            )}
            {starts !== null && from > 0 && (
              <Edge at={from} on={starts} label={`Look from when ${name} starts`} />
            )}
            {ends !== null && to > 0 && to < 1 && (
              <Edge at={to} on={ends} label={`Look from when ${name} ends`} />
            )}
            {about !== '' && (
              <span
                className={`absolute px-1.5 text-xs leading-4 whitespace-nowrap ${to > MOST_ABOUT ? 'right-1' : 'text-soft'}`}
                style={to > MOST_ABOUT ? {} : { left: `${Math.max(0, to) * 100}%` }}
              >
                {about}
              </span>
            )}
          </>
        )}
      </span>
    </li>
  )
}

function Edge({ at, on, label }: { readonly at: number; readonly on: string; readonly label: string }) {
  return (
    <VantageLink
      href="/calendar"
      lookOn={on}
      aria-label={label}
      title={label}
      className="absolute inset-y-0 w-2 -translate-x-1 cursor-col-resize hover:bg-secondary/40"
      style={{ left: `${at * 100}%` }}
    />
  )
}

function Side({ view: { looked, started, over, next, gaps } }: { readonly view: CalendarView }) {
  const then = looked === null ? 'Today' : looked.text
  const days = Math.abs(looked?.days ?? 0)
  return (
    <>
      <h2 className="text-xl leading-7 font-semibold">{then}</h2>
      <p className="text-soft">
        {looked === null
          ? 'is the day you look from. Choose an edge to look from another.'
          : `is the day you look from, ${days} ${days === 1 ? 'day' : 'days'} ${looked.days < 0 ? 'ago' : 'from today'}.`}
      </p>
      {looked && (
        <p className="flex flex-col pt-1">
          <VantageLink href="/board" className="link-name">
            Board on that day
          </VantageLink>
          <VantageLink href={looked.changesHref} className="link-name">
            {looked.days < 0 ? 'What changed since' : 'What changes by then'}
          </VantageLink>
        </p>
      )}
      {looked && <Events title={looked.days < 0 ? 'Started since' : 'Started by then'} events={started} />}
      {looked && <Events title={looked.days < 0 ? 'Over since' : 'Over by then'} events={over} />}
      <Events title="Nothing follows" events={gaps} />
      <Events title="Next" events={next} />
    </>
  )
}

function Events({ title, events }: { readonly title: string; readonly events: CalendarView['next'] }) {
  if (events.length === 0) return null
  return (
    <section className="pt-4">
      <h3 className="pb-0.5 text-xs font-semibold">{title}</h3>
      <ul>
        {events.map(({ name, href, day }) => (
          <li
            key={`${name} ${day}`}
            className="flex justify-between gap-2 border-b border-dotted border-base-300 py-1"
          >
            <VantageLink href={href} className="link-name">
              {name}
            </VantageLink>
            <span className="shrink-0 text-right">{day}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}
