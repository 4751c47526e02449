'use client'

import { useRouter } from 'next/navigation'
import { useCallback, useEffect, useState } from 'react'
import { toast } from 'sonner'
import { VantageLink } from '@/ui/frame/vantage-link'
import { importNow, readFile, stopImport, undoImport } from './import-actions'
import { ImportPreview } from './import-preview'
import type { ImportView } from './import-view'
import { MatchColumns } from './match-columns'

/** How often a page asks how far an import is, in milliseconds. */
const ASK_EVERY = 400

/** One file on its way: its columns, what every row would change, and what came of it. */
export function ImportPage({ initial }: { readonly initial: ImportView }) {
  const [view, setView] = useState(initial)
  const router = useRouter()
  const { progress } = view
  const take = useCallback(
    async (act: () => Promise<ImportView | null>) => {
      try {
        const next = await act()
        if (next) return setView(next)
        toast.error('This import is gone: several others were made since. Choose the file once more.')
        router.push('/import')
      } catch {
        toast.error('The server did not answer. Nothing was lost; try again.')
      }
    },
    [router],
  )
  const isWorking = progress.step === 'working'
  const isDone = progress.step === 'done'
  // The menu counts what there is.
  useEffect(() => {
    if (isDone) router.refresh()
  }, [isDone, router])
  useEffect(() => {
    if (!isWorking) return
    const timer = setInterval(() => void importNow(view.id).then((next) => next && setView(next)), ASK_EVERY)
    return () => clearInterval(timer)
  }, [isWorking, view.id])

  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label={`Import of ${view.fileName}`}>
      <header className="px-6 pt-3 pb-2">
        <h1 className="text-xl leading-7 font-semibold">
          {view.fileName}{' '}
          <span className="text-sm font-normal text-soft">
            {view.rowCount.toLocaleString('en')} rows into {view.into}
          </span>
        </h1>
        <Steps step={progress.step} />
      </header>
      {progress.step === 'matching' && (
        <MatchColumns
          key={view.id}
          view={view}
          problem={progress.problem}
          onRead={(matching, mark) => take(() => readFile(view.id, matching, mark))}
        />
      )}
      {progress.step === 'working' && (
        <Working {...progress} onStop={() => void take(() => stopImport(view.id))} />
      )}
      {progress.step === 'preview' && <ImportPreview view={view} progress={progress} take={take} />}
      {progress.step === 'stopped' && (
        <p role="alert" className="max-w-3xl px-6 py-4 text-error">
          {progress.problem}
        </p>
      )}
      {progress.step === 'done' && <Done view={view} progress={progress} />}
    </section>
  )
}

const STEPS = [
  { name: 'Match columns', of: ['matching'] },
  { name: 'Look at what changes', of: ['preview', 'working'] },
  { name: 'Imported', of: ['done'] },
]

function Steps({ step }: { readonly step: string }) {
  return (
    <ol className="flex gap-6 pt-1">
      {STEPS.map(({ name, of }, at) => (
        <li
          key={name}
          aria-current={of.includes(step) ? 'step' : undefined}
          className={of.includes(step) ? 'border-b-2 border-primary font-semibold' : 'text-soft'}
        >
          {at + 1} {name}
        </li>
      ))}
    </ol>
  )
}

interface WorkingProps {
  readonly words: string
  readonly done: number
  readonly of: number
  readonly onStop: () => void
}

function Working({ words, done, of, onStop }: WorkingProps) {
  return (
    <div className="flex max-w-xl flex-col gap-2 px-6 py-6" role="status">
      <label className="flex flex-col gap-2">
        <span>
          {words}: {done.toLocaleString('en')} of {of.toLocaleString('en')}
        </span>
        <progress className="progress w-full progress-primary" value={done} max={Math.max(1, of)} />
      </label>
      <p className="text-soft">You can leave this page: it goes on, and stands under Import.</p>
      <button type="button" className="btn self-start btn-outline btn-sm" onClick={onStop}>
        Stop, and write nothing
      </button>
    </div>
  )
}

function Done({
  view,
  progress,
}: {
  readonly view: ImportView
  readonly progress: Extract<ImportView['progress'], { step: 'done' }>
}) {
  const [takenBack, setTakenBack] = useState(false)
  const [busy, setBusy] = useState(false)
  const { wrong } = progress.counts
  async function undo(): Promise<void> {
    setBusy(true)
    const problem = await undoImport(progress.changeSet).catch(() => 'The server did not answer; try again.')
    setBusy(false)
    if (problem) toast.error(problem)
    else setTakenBack(true)
  }
  return (
    <div className="flex max-w-2xl flex-col gap-3 px-6 py-4" role="status">
      <p className="text-base">
        {takenBack
          ? 'Undone: everything is as it was before.'
          : `${progress.rows.toLocaleString('en')} ${progress.rows === 1 ? 'row was' : 'rows were'} imported as one change.`}
        {wrong > 0 && ` ${wrong} wrong ${wrong === 1 ? 'row was' : 'rows were'} left.`}
      </p>
      <p className="flex flex-wrap gap-5">
        <VantageLink href={view.kind === 'products' ? '/products' : '/price-lists'} className="link-name">
          {view.kind === 'products' ? 'See the products' : 'See the price lists'}
        </VantageLink>
        <VantageLink href="/board" className="link-name">
          See the board
        </VantageLink>
        {wrong > 0 && (
          <a href={`/api/imports/${view.id}/wrong`} download className="link-name">
            Download the wrong rows
          </a>
        )}
        {!takenBack && (
          <button type="button" className="link-name" disabled={busy} onClick={() => void undo()}>
            {busy ? 'Taking back …' : 'Take all of it back'}
          </button>
        )}
      </p>
    </div>
  )
}
