'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { HistorySection } from '@/ui/frame/history-section'
import { useSheet } from '@/ui/frame/use-sheet'
import { VantageLink } from '@/ui/frame/vantage-link'
import { LineChart } from '@/ui/chart/line-chart'
import { withVantage } from '@/ui/frame/vantage-url'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { toast } from 'sonner'
import {
  addRate,
  archiveRecord,
  editField,
  type RecordReference,
  removeRecord,
  takeBackOnRecord,
} from './edit-record'
import { FieldPicker, pickedOf } from './field-picker'
import { FieldRow } from './field-row'
import type { RecordView, RelatedTable } from './record-view'
import { sectionOf } from './sections'

/** One record: every field changed in place, what belongs to its story beside it. */
export function RecordSheet({ initial }: { readonly initial: RecordView }) {
  const { view, take } = useSheet(initial)
  const { href, vantage } = useFrame()
  const router = useRouter()
  const [opened, setOpened] = useState<{ readonly field: string; readonly words: string } | null>(null)
  const openField = view.fields.find(({ field }) => field === opened?.field)
  const openPicked = openField ? pickedOf(openField) : null
  const { path, singular } = sectionOf(view.kind)

  async function remove(): Promise<void> {
    const outcome = await removeRecord(referenceTo(view))
    if (!outcome.ok) return void toast.error(outcome.problem)
    toast(`${view.title} is gone. Undo brings it back from its history.`)
    router.push(href(outcome.href))
  }
  const complain = async (problem: Promise<string | null>) => {
    const wrong = await problem
    if (wrong) toast.error(wrong)
  }

  return (
    <section className="flex min-h-0 flex-1 flex-col overflow-auto" aria-label={view.title}>
      <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 px-6 pt-4 pb-3">
        <h1 className="text-xl leading-7 font-semibold">
          {view.title} <span className="text-sm font-normal text-soft">{singular}</span>
        </h1>
        {view.flag && (
          <span className="bg-warning px-2 text-xs font-semibold text-warning-content">{view.flag}</span>
        )}
        {view.archived && <span className="text-xs font-semibold text-soft">archived</span>}
        {view.links.map((link) => (
          <Link
            key={link.name}
            href={withVantage(link.href, link.as === null ? vantage : { ...vantage, as: link.as })}
            className="link-name"
          >
            {link.name}
          </Link>
        ))}
        {view.live && view.kind !== 'settings' && (
          <span className="ml-auto flex gap-4">
            <VantageLink href={`/${path}/new?copy=${encodeURIComponent(view.label)}`} className="link-name">
              Copy
            </VantageLink>
            <button
              type="button"
              className="link-name"
              onClick={() => void complain(take((now) => archiveRecord(referenceTo(now))))}
            >
              {view.archived ? 'Restore' : 'Archive'}
            </button>
            <button type="button" className="link-name" onClick={() => void remove()}>
              Remove
            </button>
          </span>
        )}
      </header>
      {openField && openPicked && (
        <FieldPicker
          key={openField.field}
          field={openField}
          label={`${openField.name}: ${view.title}`}
          initial={openPicked}
          mayBeEmpty={view.kind === 'price-list'}
          onChange={(words) => setOpened({ field: openField.field, words })}
          onCancel={() => setOpened(null)}
          onDone={async (_picked, text) => {
            const wrong = await take((now) => editField(referenceTo(now), openField.field, text))
            if (wrong === null) setOpened(null)
            return wrong
          }}
        />
      )}
      <div className="grid gap-x-10 px-6 lg:grid-cols-[minmax(22rem,36rem)_minmax(16rem,1fr)]">
        <dl data-testid="fields">
          {view.fields.map((field) => (
            <FieldRow
              key={field.field}
              view={field}
              disabled={!view.live}
              openWords={opened?.field === field.field ? opened.words : null}
              onOpen={() => setOpened({ field: field.field, words: field.phrase })}
              onSave={(text) => take((now) => editField(referenceTo(now), field.field, text))}
            />
          ))}
        </dl>
        <div>
          {view.chart && view.chart.points.length > 1 && (
            <LineChart title={view.chart.title} points={view.chart.points} />
          )}
          {view.kind === 'currency' && view.live && (
            <RateForm onAdd={(rate) => take((now) => addRate(referenceTo(now), rate))} />
          )}
          {view.related.map((table) => (
            <Related key={table.title} table={table} />
          ))}
        </div>
      </div>
      <HistorySection
        history={view.history}
        onTakeBack={
          view.live ? (changeSet) => take((now) => takeBackOnRecord(referenceTo(now), changeSet)) : undefined
        }
      />
    </section>
  )
}

function referenceTo({ kind, id, label, revision, vantage }: RecordView): RecordReference {
  return { kind, id, label, revision, vantage }
}

function Related({ table }: { readonly table: RelatedTable }) {
  return (
    <section className="pb-5">
      <h2 className="text-xs font-semibold">{table.title}</h2>
      <p className="pb-1 text-xs text-soft">{table.about}</p>
      {table.rows.length === 0 ? (
        <p className="text-soft">None yet.</p>
      ) : (
        <ol className="border-t border-base-300">
          {table.rows.map(({ title, about, href }, at) => (
            <li key={at} className="flex flex-wrap items-baseline gap-x-3 border-b border-base-300 py-1">
              {href ? (
                <VantageLink href={href} className="link-name">
                  {title}
                </VantageLink>
              ) : (
                <span>{title}</span>
              )}
              <span className="text-soft">{about}</span>
            </li>
          ))}
        </ol>
      )}
    </section>
  )
}

function RateForm({ onAdd }: { readonly onAdd: (rate: string) => Promise<string | null> }) {
  const [typed, setTyped] = useState('')
  const [problem, setProblem] = useState<string | null>(null)
  return (
    <form
      className="flex flex-wrap items-baseline gap-2 pb-4"
      onSubmit={(event) => {
        event.preventDefault()
        void onAdd(typed).then((wrong) => {
          setProblem(wrong)
          if (wrong === null) setTyped('')
        })
      }}
    >
      <label className="flex items-baseline gap-2">
        <span className="text-xs font-semibold">Rate from now on</span>
        <input
          inputMode="decimal"
          placeholder="0.869840"
          aria-invalid={problem !== null}
          className="w-28 border border-base-300 bg-lifted px-2 py-1 text-right aria-[invalid=true]:border-error"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      </label>
      <button type="submit" className="btn btn-sm">
        Set
      </button>
      {problem && (
        <p role="alert" className="w-full text-xs text-error">
          {problem}
        </p>
      )}
    </form>
  )
}
