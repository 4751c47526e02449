'use client'

import { instantOf, localText } from '@/ui/format/local-time'
import { useFrame } from '@/ui/frame/frame-context'
import { withVantage } from '@/ui/frame/vantage-url'
import { useRouter } from 'next/navigation'
import { type ReactNode, useState } from 'react'
import { betweenHref } from '@/ui/frame/between-href'
import { ImpactHeadline } from './impact-headline'
import { ImpactPart, ImpactTabs } from './impact-tabs'
import type { BetweenView } from './load-between'
import type { ReviewShown } from '../review/review-url'

/** What moves for whom between two instants, past or to come. */
export function BetweenPage({
  view,
  shown,
  traces,
}: {
  readonly view: BetweenView
  readonly shown: ReviewShown
  readonly traces: ReactNode
}) {
  return (
    <section
      className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-8"
      aria-label="What changes between two days"
    >
      <h1 className="text-xl leading-7 font-semibold">What changes between two days</h1>
      <Instants key={`${view.since} ${view.until}`} view={view} />
      {view.note && <p className="pt-1 text-soft">{view.note}</p>}
      <p className="pt-2 text-base leading-6">
        <ImpactHeadline view={view} />
      </p>
      <ImpactTabs view={view} shown={shown} />
      <ImpactPart view={view} shown={shown} traces={traces} />
    </section>
  )
}

function Instants({ view: { since, until, timeZone } }: { readonly view: BetweenView }) {
  const { vantage } = useFrame()
  const router = useRouter()
  const [from, setFrom] = useState(() => localText(since, timeZone))
  const [to, setTo] = useState(() => localText(until, timeZone))
  const [problem, setProblem] = useState('')
  function show() {
    const [start, end] = [instantOf(from, timeZone), instantOf(to, timeZone)]
    if (start === '' || end === '') return setProblem('Type a day and a time in both fields.')
    setProblem('')
    router.push(withVantage(betweenHref(new Date(start), new Date(end)), vantage))
  }
  return (
    <form
      className="flex flex-wrap items-center gap-x-2 gap-y-1 pt-2 text-soft"
      onSubmit={(event) => {
        event.preventDefault()
        show()
      }}
    >
      From
      <Moment label={`From when, in the time of ${timeZone}`} value={from} onChange={setFrom} />
      to
      <Moment label={`To when, in the time of ${timeZone}`} value={to} onChange={setTo} />
      <button type="submit" className="btn btn-primary btn-sm">
        Compare
      </button>
      {problem && (
        <span role="alert" className="text-error">
          {problem}
        </span>
      )}
    </form>
  )
}

function Moment({
  label,
  value,
  onChange,
}: {
  readonly label: string
  readonly value: string
  readonly onChange: (value: string) => void
}) {
  return (
    <input
      type="datetime-local"
      aria-label={label}
      className="border border-base-300 bg-lifted px-2 py-1 text-base-content"
      value={value}
      onChange={(event) => onChange(event.target.value)}
    />
  )
}
