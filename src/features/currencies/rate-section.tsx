'use client'

import { formatPercent } from '@/ui/format/amount'
import { useFrame } from '@/ui/frame/frame-context'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import type { ConvertedRow } from './load-currency'
import type { PublishedView } from './load-published'
import { PublishedRate } from './published-rate'
import { type RateOutcome, setRate, type TriedRate, tryRate } from './set-rate'

interface RateSectionProps {
  readonly code: string
  readonly home: string
  readonly rate: string | null
  readonly rows: readonly ConvertedRow[]
  /** Whether the rows show what is typed in the sentence. */
  readonly isTried: boolean
  readonly live: boolean
  /** What a service publishes; `null` where none is asked. */
  readonly published: PublishedView | null
}

const INPUT = 'border border-base-300 bg-lifted px-2 py-1 aria-[invalid=true]:border-error'

/** A new rate, with what it would make of real prices while it is typed. */
export function RateSection({ code, home, rate, rows, isTried, live, published }: RateSectionProps) {
  const [typed, setTyped] = useState('')
  const [from, setFrom] = useState('')
  const [tried, setTried] = useState<TriedRate | null>(null)
  const [outcome, setOutcome] = useState<{ readonly of: string; readonly outcome: RateOutcome } | null>(null)
  const router = useRouter()
  const { pricesChanged } = useFrame()
  const asked = `${typed} ${from}`

  useEffect(() => {
    if (typed.trim() === '') return
    let isCurrent = true
    const wait = setTimeout(() => {
      tryRate({ currency: code, rate: typed, from }).then(
        (next) => isCurrent && setTried(next),
        () => undefined,
      )
    }, 150)
    return () => {
      isCurrent = false
      clearTimeout(wait)
    }
  }, [code, typed, from])

  async function set(): Promise<void> {
    const next = await setRate({ currency: code, rate: typed, from })
    setOutcome({ of: asked, outcome: next })
    if (!next.ok) return
    // What was typed since stays.
    setTyped((now) => (now === typed ? '' : now))
    setFrom((now) => (now === from ? '' : now))
    setTried(null)
    pricesChanged(next.changeSet)
    router.refresh()
  }
  const shown = typed.trim() !== '' && tried?.ok ? tried : null
  // Its answer may arrive when something else has been typed.
  const refused = outcome?.of === asked && !outcome.outcome.ok ? outcome.outcome : null
  const failed = refused ?? (typed.trim() !== '' && tried?.ok === false ? tried : null)
  const table = shown?.rows ?? rows
  const hasThen = shown !== null || isTried
  return (
    <>
      {published && <PublishedRate view={published} onTry={setTyped} />}
      {live && (
        <form
          className="-mx-6 mb-4 flex flex-wrap items-center gap-x-3 gap-y-1 bg-base-200 px-6 py-3"
          aria-label="New rate"
          onSubmit={(event) => {
            event.preventDefault()
            void set()
          }}
        >
          <label className="flex items-baseline gap-2">
            <span className="text-soft">From</span>
            <input
              aria-label="From when"
              aria-invalid={failed?.field === 'from'}
              placeholder="now"
              className={`${INPUT} w-36`}
              value={from}
              onChange={(event) => setFrom(event.target.value)}
            />
          </label>
          <label className="flex items-baseline gap-2">
            <span className="text-soft">1 {home} =</span>
            <input
              aria-label="New rate"
              inputMode="decimal"
              placeholder={rate ?? '0.86984'}
              aria-invalid={failed?.field === 'rate'}
              className={`${INPUT} w-28 text-right font-semibold`}
              value={typed}
              onChange={(event) => setTyped(event.target.value)}
            />
            <span className="text-soft">{code}</span>
          </label>
          <p className="min-w-0 grow basis-40" aria-live="polite">
            {failed ? (
              <span role="alert" className="text-error">
                {failed.problem}
              </span>
            ) : shown ? (
              <b>{shown.summary}</b>
            ) : rate === null ? (
              <b>It has no rate yet, so nothing can be paid in it. Type one.</b>
            ) : (
              <span className="text-soft">Now, or from a coming day.</span>
            )}
          </p>
          {typed !== '' && (
            <button type="button" className="btn btn-sm" onClick={() => setTyped('')}>
              Cancel
            </button>
          )}
          <button type="submit" className="btn btn-primary btn-sm" disabled={typed.trim() === ''}>
            Set the rate
          </button>
        </form>
      )}
      {table.length > 0 && (
        <table className="w-full text-right">
          <thead>
            <tr className="border-b border-base-content">
              <th className="py-1 text-left font-semibold">Prices of every size</th>
              <th className="w-24 font-semibold">Base, {home}</th>
              <th className="w-24 font-semibold">At the rate</th>
              <th className="w-24 font-semibold">With fee</th>
              <th className="w-28 font-semibold">Pays, {code}</th>
              {hasThen && <th className="w-28 font-semibold">Then</th>}
              {hasThen && <th className="w-20 font-semibold">Change</th>}
            </tr>
          </thead>
          <tbody>
            {table.map((row) => (
              <tr key={`${row.name} ${row.base}`} className="border-b border-base-300">
                <td className="py-1 text-left">
                  <VantageLink href={row.href} className="hover:underline">
                    {row.name}
                  </VantageLink>
                  {row.isOwn && <span className="text-xs text-soft"> set by itself</span>}
                </td>
                <td className="text-soft">{row.base}</td>
                <td className="text-soft">{row.atRate}</td>
                <td className="text-soft">{row.withFee}</td>
                <td className="font-semibold">{row.pays}</td>
                {hasThen && <td className="bg-warning font-semibold">{row.then ?? '–'}</td>}
                {hasThen && (
                  <td className={row.change === '0' ? 'text-soft' : ''}>
                    {row.change === null ? '–' : row.change === '0' ? 'stays' : formatPercent(row.change)}
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  )
}
