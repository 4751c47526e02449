'use client'

import { NO_ANSWER } from '@/ui/format/no-answer'
import { useReady } from '@/ui/frame/use-ready'
import { SideList } from '@/sheet/parts/side-parts'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useRouter } from 'next/navigation'
import { type ReactNode, useState, useTransition } from 'react'
import type { TaxesView } from './load-taxes'
import { NewRatesForm } from './new-rates-form'
import { RateTable } from './rate-table'
import { placeKey, type RateRow } from './rates-text'
import { pasteRates, type RatesOutcome } from './save-rates'
import { TryBand } from './try-band'
import { RATE_INPUT } from './inputs'

interface TaxesPageProps {
  readonly view: TaxesView
  /** What each place of a rate is called, by its key, and the country that is tried. */
  readonly places: Readonly<Record<string, string>>
  readonly countryName: string
  readonly tabs: ReactNode
}

/** Rates by place, and a strip to try what tax falls on what, where. */
export function TaxesPage({ view, places, countryName, tabs }: TaxesPageProps) {
  return (
    <div className="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
      <section
        className="relative min-w-0 flex-1 px-6 pt-3 pb-8 max-lg:flex-none lg:overflow-auto"
        aria-label="Tax rates"
        data-ready={useReady()}
      >
        <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pb-2">
          <h1 className="text-xl leading-7 font-semibold">Taxes</h1>
          {tabs}
        </header>
        <TryBand view={view} countryName={countryName} />
        <Rates view={view} places={places} />
      </section>
      <Side view={view} />
    </div>
  )
}

/** The tax that was tried step by step, and how the store computes tax. */
function Side({ view }: { readonly view: TaxesView }) {
  const { result, settings } = view
  return (
    <aside
      aria-label="What belongs to it"
      className="shrink-0 border-base-300 bg-lifted px-4 py-4 max-lg:border-t lg:w-[17rem] lg:overflow-auto lg:border-l"
    >
      {result && !result.problem && (
        <SideList title={result.title} about="Step by step, and why each other tax does not apply.">
          {result.lines.map(({ parts, outcome }, at) => (
            <p key={at} className="flex justify-between gap-3 border-b border-base-300 py-1">
              <span>
                {parts.map((part, place) => (
                  <span key={place}>
                    {place > 0 && ' '}
                    {part.href ? (
                      <VantageLink href={part.href} className="link-name">
                        {part.text}
                      </VantageLink>
                    ) : (
                      part.text
                    )}
                  </span>
                ))}
              </span>
              <b className="shrink-0 tabular-nums">{outcome}</b>
            </p>
          ))}
        </SideList>
      )}
      <SideList title="How tax is worked out">
        {settings.map(([name, value]) => (
          <p key={name} className="border-b border-base-300 py-1">
            <span className="text-soft">{name}</span> {value}
          </p>
        ))}
        <p className="pt-2">
          <VantageLink href="/settings/store" className="link-name">
            Change these
          </VantageLink>
        </p>
      </SideList>
    </aside>
  )
}

/** By what their places are called; of one place the earlier first. */
function byPlace(places: TaxesPageProps['places'], left: RateRow, right: RateRow): number {
  const [one = '', other = ''] = [places[placeKey(left)], places[placeKey(right)]]
  return one.localeCompare(other, 'en') || ((left.from ?? '') < (right.from ?? '') ? -1 : 1)
}

function Rates({ view, places }: { readonly view: TaxesView; readonly places: TaxesPageProps['places'] }) {
  const router = useRouter()
  const [isBusy, start] = useTransition()
  const [problems, setProblems] = useState<readonly string[]>([])
  const [pasting, setPasting] = useState<string | null>(null)
  const take = (act: () => Promise<RatesOutcome>, done?: () => void) =>
    start(async () => {
      const outcome = await act().catch((): RatesOutcome => ({
        ok: false,
        problems: [NO_ANSWER],
      }))
      setProblems(outcome.ok ? [] : outcome.problems)
      if (!outcome.ok) return
      done?.()
      router.refresh()
    })
  return (
    <>
      <p className="flex flex-wrap items-baseline gap-x-4 gap-y-1 pb-2">
        <span className="text-soft">For each tax the nearest place counts; several taxes add up.</span>
        <button
          type="button"
          className="ml-auto link-name"
          onClick={() => void navigator.clipboard.writeText(view.text)}
        >
          Copy for a spreadsheet
        </button>
        {view.live && (
          <button
            type="button"
            className="link-name"
            onClick={() => setPasting(pasting === null ? '' : null)}
          >
            Paste from a spreadsheet
          </button>
        )}
      </p>
      {pasting !== null && (
        <div className="mb-3 border-l-4 border-warning pl-4">
          <label>
            <span className="text-soft">
              The first line names the columns as they stand below; a dash takes a rate away, an empty cell
              leaves it.
            </span>
            <textarea
              rows={6}
              className={`${RATE_INPUT} mt-1 w-full font-mono`}
              value={pasting}
              onChange={(event) => setPasting(event.target.value)}
            />
          </label>
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={isBusy || pasting.trim() === ''}
            onClick={() =>
              take(
                () => pasteRates(pasting, view.asOf),
                () => setPasting(null),
              )
            }
          >
            Take these rates over
          </button>
        </div>
      )}
      {problems.length > 0 && (
        <ul role="alert" className="pb-3 text-error">
          {problems.map((problem) => (
            <li key={problem}>{problem}</li>
          ))}
        </ul>
      )}
      <div className="grid items-start gap-x-8 gap-y-6">
        {view.taxes.map((tax) => {
          const rows = view.rows
            .filter((row) => row.tax === tax.code)
            .sort((left, right) => byPlace(places, left, right))
          return rows.length === 0 ? null : (
            <RateTable
              key={tax.code}
              view={view}
              tax={tax}
              rows={rows}
              places={places}
              isBusy={isBusy}
              take={take}
            />
          )
        })}
      </div>
      {view.rows.length === 0 && (
        <p className="py-3 text-soft">
          No rates yet, so nothing is taxed. Make a class and a tax, then add the first place below.
        </p>
      )}
      {view.live && <NewRatesForm view={view} isBusy={isBusy} take={take} />}
    </>
  )
}
