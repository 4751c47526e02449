'use client'

import { useDrafts } from '@/ui/frame/drafts-context'
import type { DraftFigures } from '@/ui/frame/drafts-view'
import { useFrame } from '@/ui/frame/frame-context'
import { VantageLink } from '@/ui/frame/vantage-link'
import { formatPercent } from '@/ui/format/amount'
import { usePathname, useRouter } from 'next/navigation'
import { type ReactNode, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { toast } from 'sonner'
import { discard } from './draft-actions'

/** Along the bottom while a draft is open: what is in it, and whether edits go into it. */
export function DraftBar() {
  const { view } = useDrafts()
  const { vantage, setVantage } = useFrame()
  const current = view?.current ?? null
  const through = vantage.draft !== null
  const path = usePathname()
  useHotkeys('v', () => current && setVantage({ draft: through ? null : current.code }), [
    current,
    through,
    setVantage,
  ])
  // There the bar is the form that publishes.
  if (path.startsWith('/drafts/')) return null
  if (view?.missing)
    return (
      <Bar label="Draft">
        <span role="status" className="font-semibold">
          There is no open draft “{view.missing}” any more. You look at live prices, and nothing can be
          changed here.
        </span>
        <span className="ml-auto" />
        <button type="button" className={QUIET} onClick={() => setVantage({ draft: null })}>
          Look at live
        </button>
      </Bar>
    )
  if (!current) return null
  return (
    <Bar label="Draft">
      <VantageLink
        href={`/drafts/${encodeURIComponent(current.code)}`}
        lookDraft={current.code}
        className="border-b border-accent font-semibold text-accent"
      >
        Draft “{current.name}”
      </VantageLink>
      <Figures figures={current} />
      <span className="ml-auto text-xs text-soft">
        {through ? 'Edits go into the draft' : 'Edits go live'} · <kbd>V</kbd>
      </span>
      <button
        type="button"
        className={QUIET}
        onClick={() => setVantage({ draft: through ? null : current.code })}
      >
        {through ? 'Look at live' : 'Look through'}
      </button>
      <Discard draft={current} />
      <VantageLink
        href={`/drafts/${encodeURIComponent(current.code)}`}
        lookDraft={current.code}
        className="btn btn-primary btn-sm"
      >
        Review and publish
      </VantageLink>
    </Bar>
  )
}

const QUIET = 'btn btn-sm border-accent bg-transparent font-semibold text-warning-content'

function Bar({ label, children }: { readonly label: string; readonly children: ReactNode }) {
  return (
    <section
      aria-label={label}
      className="flex min-h-10 shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-t border-accent bg-warning px-4 py-1 text-warning-content"
    >
      {children}
    </section>
  )
}

function Figures({ figures }: { readonly figures: DraftFigures }) {
  const { changes, moved, marginBefore, marginAfter, belowCost, brokenProofs, conflicts, planned, failure } =
    figures
  const margin =
    marginBefore !== null && marginAfter !== null && marginBefore !== marginAfter
      ? `margin ${formatPercent(marginBefore).replace(' %', '')} → ${formatPercent(marginAfter)}`
      : ''
  const parts: readonly (readonly [text: string, isWrong: boolean])[] = [
    [changes === 0 ? 'nothing in it yet' : counted(changes, 'change'), false],
    [
      changes === 0
        ? ''
        : moved === 0
          ? 'no price moves'
          : `${counted(moved, 'price')} ${moved === 1 ? 'moves' : 'move'}`,
      false,
    ],
    [margin, false],
    [belowCost === 0 ? '' : `${belowCost} fall below cost`, true],
    [
      brokenProofs === 0
        ? ''
        : `${counted(brokenProofs, 'proof')} ${brokenProofs === 1 ? 'breaks' : 'break'}`,
      true,
    ],
    [conflicts === 0 ? '' : `${counted(conflicts, 'conflict')} with live`, true],
    [planned === '' ? '' : `published ${planned}`, false],
    [failure, true],
  ]
  return parts
    .filter(([text]) => text !== '')
    .map(([text, isWrong]) => (
      <span
        key={text}
        className={`border-l border-accent/50 pl-3 ${isWrong ? 'font-semibold text-error' : ''}`}
      >
        {text}
      </span>
    ))
}

function counted(count: number, noun: string): string {
  return `${count} ${noun}${count === 1 ? '' : 's'}`
}

function Discard({ draft: { code, name, changes } }: { readonly draft: DraftFigures }) {
  const { vantage, setVantage } = useFrame()
  const { renew } = useDrafts()
  const router = useRouter()
  const [isAsked, setAsked] = useState(false)
  async function end() {
    const outcome = await discard(code)
    if (!outcome.ok) return void toast.error(outcome.problem)
    toast(`Draft “${name}” discarded.`)
    renew()
    if (vantage.draft === code) setVantage({ draft: null })
    else router.refresh()
  }
  if (!isAsked)
    return (
      <button type="button" className={QUIET} onClick={() => (changes === 0 ? void end() : setAsked(true))}>
        Discard
      </button>
    )
  return (
    <span role="group" aria-label="Discard the draft?" className="flex items-center gap-2">
      <span className="font-semibold">Throw {counted(changes, 'change')} away?</span>
      <button
        type="button"
        className="btn border-error bg-transparent text-error btn-sm"
        onClick={() => void end()}
      >
        Discard “{name}”
      </button>
      <button type="button" className="link-name" autoFocus onClick={() => setAsked(false)}>
        Keep it
      </button>
    </span>
  )
}
