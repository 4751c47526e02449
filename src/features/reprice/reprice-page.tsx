'use client'

import { useDrafts } from '@/ui/frame/drafts-context'
import { useFrame } from '@/ui/frame/frame-context'
import { withVantage } from '@/ui/frame/vantage-url'
import { Unrolled } from '@/ui/picker/panel/unrolled'
import { TypedWord } from '@/ui/frame/typed-word'
import { PickerWord } from '@/ui/picker/picker-word'
import { useWhatSource } from '@/ui/picker/picker-sources'
import { WhatPicker } from '@/ui/picker/what/what-picker'
import { useRouter } from 'next/navigation'
import { useRef, useState } from 'react'
import { toast } from 'sonner'
import { askToPut, type RepriceStep } from './reprice-progress'
import { RepriceSide } from './reprice-side'
import { RepriceTable } from './reprice-table'
import type { ChoiceGroup } from './reprice-choices'
import { repriceHref, type RepriceShown } from './reprice-url'
import type { RepriceView } from './reprice-view'

/** Many prices by one rule: seen one by one, then put into a draft. */
export function RepricePage({ view }: { readonly view: RepriceView }) {
  const { shown, counts, draft, live } = view
  const { vantage, pricesChanged } = useFrame()
  const { renew } = useDrafts()
  const router = useRouter()
  const [leftOut, setLeftOut] = useState<ReadonlySet<string>>(new Set())
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>({})
  const [problem, setProblem] = useState('')
  const [step, setStep] = useState<RepriceStep | null>(null)
  const stop = useRef<AbortController>(null)
  // What was asked of this view: who goes on typing before the answer is there changes that, and not what is seen.
  const asked = useRef<{ readonly of: RepriceView; readonly shown: RepriceShown }>(null)
  const show = (change: Partial<RepriceShown>) => {
    const before = asked.current?.of === view ? asked.current.shown : shown
    asked.current = { of: view, shown: { ...before, page: 0, ...change } }
    router.push(withVantage(repriceHref(asked.current.shown), vantage), { scroll: false })
  }
  const changing = counts.all - counts.same - counts.problems - leftOut.size
  async function put() {
    const stopping = new AbortController()
    stop.current = stopping
    setStep({ stage: 'checking', done: 0, of: changing })
    setProblem('')
    const fields = Object.fromEntries(new URLSearchParams(repriceHref(shown).split('?')[1] ?? ''))
    const wanted = { fields, leftOut: [...leftOut], typed }
    const outcome = await askToPut(
      withVantage('/api/reprice', vantage),
      wanted,
      stopping.signal,
      setStep,
    ).catch(() => ({
      ok: false as const,
      problem: stopping.signal.aborted
        ? 'Stopped. Nothing was put in.'
        : 'The server did not answer. Nothing was put in; try again.',
    }))
    setStep(null)
    if (!outcome.ok) return setProblem(outcome.problem)
    pricesChanged(outcome.changeSet)
    renew()
    setLeftOut(new Set())
    setTyped({})
    toast(`${outcome.count} amounts are in the draft. Nothing is live yet.`)
    router.push(
      withVantage(`/drafts/${encodeURIComponent(outcome.draft)}`, { ...vantage, draft: outcome.draft }),
    )
  }
  return (
    <div className="flex min-h-0 flex-1">
      <section className="flex min-h-0 min-w-0 flex-1 flex-col" aria-label="Reprice">
        <div className="px-6 pt-3">
          <h1 className="inline text-xl leading-7 font-semibold">Reprice</h1>
          <span className="pl-3 text-soft">
            Change many prices by one rule, see each, then put them into a draft
          </span>
          <RuleSentence view={view} onShow={show} />
          {view.problem && (
            <p role="alert" className="pt-1 text-error">
              {view.problem.problem}
            </p>
          )}
        </div>
        <RepriceTable
          view={view}
          leftOut={leftOut}
          typed={typed}
          onShow={show}
          onToggle={(keys, isIn) =>
            setLeftOut((before) => {
              const next = new Set(before)
              for (const key of keys) {
                if (isIn) next.delete(key)
                else next.add(key)
              }
              return next
            })
          }
          onType={(key, text) =>
            setTyped((before) => {
              const { [key]: _, ...rest } = before
              return text.trim() === '' ? rest : { ...rest, [key]: text }
            })
          }
        />
        {view.isAsked && live && (
          <footer className="mx-6 flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-base-300 py-2">
            <span>
              <b>{counts.all} rows</b>
              {leftOut.size > 0 && `, ${leftOut.size} left out`}{' '}
              <span className="text-soft">· type over any new price to set it yourself</span>
            </span>
            {problem && (
              <span role="alert" className="text-error">
                {problem}
              </span>
            )}
            {step ? (
              <PuttingIn step={step} onStop={() => stop.current?.abort()} />
            ) : (
              <button
                type="button"
                className="btn ml-auto btn-primary btn-sm"
                disabled={changing <= 0}
                onClick={() => void put()}
              >
                {`Put ${changing} into ${draft ? `draft “${draft.name}”` : 'a new draft'}`}
              </button>
            )}
          </footer>
        )}
      </section>
      {view.isAsked && <RepriceSide view={view} />}
    </div>
  )
}

function PuttingIn({ step, onStop }: { readonly step: RepriceStep; readonly onStop: () => void }) {
  const { stage, done, of } = step
  return (
    <div role="status" className="ml-auto flex items-center gap-3">
      <label className="flex items-center gap-3">
        <span className="tabular-nums">
          {stage === 'checking' ? 'Checking' : 'Putting them in'}: {done.toLocaleString('en')} of{' '}
          {of.toLocaleString('en')}
        </span>
        <progress className="progress w-40 progress-primary" value={done} max={Math.max(1, of)} />
      </label>
      <button type="button" className="btn btn-outline btn-sm" onClick={onStop}>
        Stop, and put nothing in
      </button>
    </div>
  )
}

function RuleSentence({
  view,
  onShow,
}: {
  readonly view: RepriceView
  readonly onShow: (change: Partial<RepriceShown>) => void
}) {
  const { shown, what, whatWords, choices } = view
  const source = useWhatSource()
  const [choosing, setChoosing] = useState<string | null>(null)
  return (
    <>
      <p className="flex flex-wrap items-baseline gap-x-1.5 gap-y-2 pt-2 text-base text-soft">
        In
        <span>
          <PickerWord
            word={choosing ?? whatWords}
            label="What is repriced"
            isOpen={choosing !== null}
            disabled={false}
            onOpen={() => setChoosing(choosing === null ? whatWords : null)}
          />
          ,
        </span>
        <span>
          <Select
            label="Which of it"
            value={shown.only}
            groups={choices.facts}
            isWrong={view.problem?.field === 'only'}
            onChange={(only) => onShow({ only })}
          />
          :
        </span>
        change the
        <Select
          label="Which amount"
          value={shown.field}
          groups={choices.fields}
          isWrong={view.problem?.field === 'field'}
          onChange={(field) => onShow({ field, from: '' })}
        />
        by
        <TypedWord
          key={`rule ${shown.rule}`}
          label="Rule"
          value={shown.rule}
          placeholder="+4%"
          isWrong={view.problem?.field === 'rule'}
          width={16}
          onDone={(rule) => onShow({ rule })}
        />
        of the
        <span>
          <Select
            label="Starting from"
            value={shown.from}
            groups={choices.sources}
            isWrong={view.problem?.field === 'from'}
            onChange={(from) => onShow({ from })}
          />
          ,
        </span>
        rounded
        <TypedWord
          key={`ending ${shown.rounding}`}
          label="Rounding"
          value={shown.rounding}
          placeholder="to the cent"
          isWrong={view.problem?.field === 'rounding'}
          width={10}
          onDone={(rounding) => onShow({ rounding })}
        />
      </p>
      {choosing !== null && (
        <Unrolled>
          <WhatPicker
            label="What is repriced"
            initial={what}
            source={source}
            onChange={setChoosing}
            onCancel={() => setChoosing(null)}
            onDone={(chosen, of) => {
              setChoosing(null)
              const isAll =
                chosen.exclude.length === 0 && chosen.include.some(({ kind }) => kind === 'everything')
              onShow({ of: isAll ? '' : of })
              return Promise.resolve(null)
            }}
          />
        </Unrolled>
      )}
    </>
  )
}

function Select({
  label,
  value,
  groups,
  isWrong,
  onChange,
}: {
  readonly label: string
  readonly value: string
  readonly groups: readonly ChoiceGroup[]
  readonly isWrong: boolean
  readonly onChange: (value: string) => void
}) {
  const isKnown = groups.some(({ choices }) => choices.some(([each]) => each === value))
  const options = (choices: ChoiceGroup['choices']) =>
    choices.map(([each, name]) => (
      <option key={each} value={each}>
        {name}
      </option>
    ))
  return (
    <select
      aria-label={label}
      aria-invalid={isWrong}
      className="[field-sizing:content] max-w-72 bg-transparent word text-base-content aria-[invalid=true]:border-error"
      value={value}
      onChange={(event) => onChange(event.target.value)}
    >
      {!isKnown && <option value={value}>{value}</option>}
      {groups.map(({ title, choices }) =>
        title === '' ? (
          options(choices)
        ) : (
          <optgroup key={title} label={title}>
            {options(choices)}
          </optgroup>
        ),
      )}
    </select>
  )
}
