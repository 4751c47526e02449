'use client'

import { useDrafts } from '@/ui/frame/drafts-context'
import { useFrame } from '@/ui/frame/frame-context'
import { VantageLink } from '@/ui/frame/vantage-link'
import { withVantage } from '@/ui/frame/vantage-url'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { toast } from 'sonner'
import { fixFinding, muteFinding, unmuteFinding } from './finding-actions'
import type { CaseRow, FindingRow, FindingsView } from './findings-view'

/** One finding: what is the matter, why, and what can be done about it. */
export function FindingRowView({ row, view }: { readonly row: FindingRow; readonly view: FindingsView }) {
  const { key, count, sentence, cause, fix, cases, muted, group } = row
  const [isMuting, setMuting] = useState(false)
  const isOpen = cases !== null
  const { renew } = useDrafts()
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set())
  const put = useFix()
  const here = view.shown.place === null ? '' : `place=${encodeURIComponent(view.shown.place)}`
  const opened = [here, isOpen ? '' : `open=${encodeURIComponent(key)}`].filter(Boolean).join('&')
  return (
    <li className="border-b border-base-300 py-2 last:border-b-0">
      <div className="flex items-baseline gap-3">
        <span
          className={`w-8 shrink-0 text-right text-base font-semibold ${group === 'loses-money' ? 'text-error' : ''}`}
        >
          {count}
        </span>
        <p className="min-w-0 flex-1">
          <VantageLink
            href={`/findings${opened === '' ? '' : `?${opened}`}`}
            aria-expanded={isOpen}
            className="font-semibold hover:underline"
          >
            {sentence}
          </VantageLink>
          <span className="block text-soft">
            because of{' '}
            {cause.href ? (
              <VantageLink href={cause.href} className="link-name">
                {cause.name}
              </VantageLink>
            ) : (
              cause.name
            )}
          </span>
          {muted && (
            <span className="block text-xs text-soft">
              Muted by {muted.by} {muted.until ? `until ${muted.until}` : 'for good'}: {muted.reason}
            </span>
          )}
        </p>
        {view.live && fix !== '' && !muted && (
          <button
            type="button"
            className="word text-primary"
            onClick={() => void put(key, left.size === 0 ? null : kept(count, left), view.draft)}
          >
            {fix}
          </button>
        )}
        {muted ? (
          <button
            type="button"
            className="text-soft hover:underline"
            onClick={() => void unmuteFinding(key).then(renew)}
          >
            Tell again
          </button>
        ) : (
          <button type="button" className="text-soft hover:underline" onClick={() => setMuting(!isMuting)}>
            Mute
          </button>
        )}
      </div>
      {isMuting && <MuteForm findingKey={key} onDone={() => setMuting(false)} />}
      {cases && cases.some(({ sku }) => sku !== '') && (
        <Cases
          cases={cases}
          left={left}
          isFixable={view.live && fix !== ''}
          onToggle={(at) => setLeft(toggled(left, at))}
          more={count - cases.length}
        />
      )}
    </li>
  )
}

/** So many are put right at once. */
const MOST_PUT_RIGHT = 1_000

function kept(count: number, left: ReadonlySet<number>): readonly number[] {
  return Array.from({ length: Math.min(count, MOST_PUT_RIGHT) }, (_, at) => at).filter((at) => !left.has(at))
}

function toggled(left: ReadonlySet<number>, at: number): ReadonlySet<number> {
  const next = new Set(left)
  if (!next.delete(at)) next.add(at)
  return next
}

/** Puts a finding right, and goes on in the draft it went into. */
function useFix() {
  const { vantage, pricesChanged } = useFrame()
  const { renew } = useDrafts()
  const router = useRouter()
  return async (key: string, cases: readonly number[] | null, draft: string | null) => {
    const outcome = await fixFinding(key, cases)
    if (!outcome.ok) return void toast.error(outcome.problem)
    if (outcome.changeSet !== undefined) pricesChanged(outcome.changeSet)
    renew()
    toast(
      draft === null ? 'Put right in a new draft. Nothing is live yet.' : `Put right in draft “${draft}”.`,
    )
    if (draft === null && outcome.draft !== undefined)
      router.push(withVantage('/findings', { ...vantage, draft: outcome.draft }))
  }
}

function Cases({
  cases,
  left,
  isFixable,
  onToggle,
  more,
}: {
  readonly cases: readonly CaseRow[]
  readonly left: ReadonlySet<number>
  readonly isFixable: boolean
  readonly onToggle: (at: number) => void
  readonly more: number
}) {
  const hasPrices = cases.some(({ price }) => price !== '')
  return (
    <table className="mt-2 ml-11 border-l-4 border-error bg-lifted" aria-label="Cases">
      <thead>
        <tr className="border-b border-base-300 text-left text-xs">
          {isFixable && (
            <th className="w-8 py-1 pl-3">
              <span className="sr-only">Put right</span>
            </th>
          )}
          <th className="py-1 pr-4 pl-3 font-semibold">Who</th>
          <th className="py-1 pr-4 font-semibold">For</th>
          {hasPrices && (
            <>
              <th className="py-1 pr-4 text-right font-semibold">Price</th>
              <th className="py-1 pr-4 text-right font-semibold">Against</th>
              <th className="py-1 pr-4 text-right font-semibold">In the draft</th>
            </>
          )}
        </tr>
      </thead>
      <tbody>
        {cases.map(({ who, as, title, sku, price, beside, fixed }, at) => (
          <tr key={`${who} ${sku} ${at}`} className="border-b border-dotted border-base-300">
            {isFixable && (
              <td className="py-1 pl-3">
                <input
                  type="checkbox"
                  aria-label={`Put right: ${title} for ${who}`}
                  checked={!left.has(at)}
                  disabled={fixed === ''}
                  onChange={() => onToggle(at)}
                />
              </td>
            )}
            <td className="py-1 pr-4 pl-3">{who}</td>
            <td className="py-1 pr-4">
              {sku === '' ? (
                title
              ) : (
                <VantageLink
                  href={`/board?find=${encodeURIComponent(sku)}`}
                  {...(as !== null && { lookAs: as })}
                  className="link-name"
                >
                  {title}
                </VantageLink>
              )}
            </td>
            {hasPrices && (
              <>
                <td className="py-1 pr-4 text-right font-semibold text-error">{price}</td>
                <td className="py-1 pr-4 text-right">{beside}</td>
                <td className="bg-warning py-1 pr-4 text-right font-semibold text-warning-content">
                  {fixed || '–'}
                </td>
              </>
            )}
          </tr>
        ))}
      </tbody>
      {more > 0 && (
        <tfoot>
          <tr>
            <td className="px-3 py-1 text-soft" colSpan={6}>
              and {more} more
            </td>
          </tr>
        </tfoot>
      )}
    </table>
  )
}

function MuteForm({ findingKey, onDone }: { readonly findingKey: string; readonly onDone: () => void }) {
  const [until, setUntil] = useState('')
  const [reason, setReason] = useState('')
  const [problem, setProblem] = useState<{ readonly field?: string; readonly text: string } | null>(null)
  const { renew } = useDrafts()
  async function save() {
    const outcome = await muteFinding(findingKey, until, reason)
    if (outcome.ok) {
      renew()
      return onDone()
    }
    setProblem({ text: outcome.problem, ...(outcome.field && { field: outcome.field }) })
  }
  return (
    <form
      className="ml-11 flex flex-wrap items-center gap-2 pt-2"
      aria-label="Mute"
      onSubmit={(event) => {
        event.preventDefault()
        void save()
      }}
    >
      Say nothing of it until
      <input
        type="date"
        aria-label="Until"
        aria-invalid={problem?.field === 'until'}
        className="border border-base-300 bg-lifted px-2 py-1"
        value={until}
        onChange={(event) => setUntil(event.target.value)}
      />
      because
      <input
        aria-label="Because"
        aria-invalid={problem?.field === 'reason'}
        placeholder="for whoever asks later"
        className="w-64 border border-base-300 bg-lifted px-2 py-1"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <button type="submit" className="btn btn-sm">
        Mute
      </button>
      {problem && (
        <span role="alert" className="text-error">
          {problem.text}
        </span>
      )}
    </form>
  )
}
