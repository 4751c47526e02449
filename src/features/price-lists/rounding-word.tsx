'use client'

import type { RoundingRule } from '@/core/decimal/rounding'
import type { RoundingDraft } from '@/core/issue/parse-rounding'
import { PickerButtons } from '@/ui/picker/picker-buttons'
import { WordPopover } from '@/ui/picker/word-popover'
import { useState } from 'react'

interface RoundingWordProps {
  readonly word: string
  readonly rounding: RoundingRule | null
  readonly disabled: boolean
  /** Resolves to what is wrong, or `null` when it was taken. */
  readonly onSave: (rounding: RoundingDraft | null) => Promise<string | null>
}

/** How computed prices are rounded, as a word that opens into steps and endings. */
export function RoundingWord(props: RoundingWordProps) {
  return (
    <WordPopover word={props.word} label="Rounding of computed prices" disabled={props.disabled}>
      {(close) => <RoundingForm {...props} onDone={close} />}
    </WordPopover>
  )
}

const MODES = {
  step: [
    ['half-up', 'to the nearest'],
    ['half-even', 'to the nearest, ties to even'],
    ['half-down', 'to the nearest, ties down'],
    ['up', 'up'],
    ['down', 'down'],
  ],
  endings: [
    ['nearest', 'to the nearest'],
    ['up', 'up'],
    ['down', 'down'],
  ],
} as const

const FIELD = 'border-base-300 bg-lifted border px-2 py-1'

function RoundingForm({ rounding, onSave, onDone }: RoundingWordProps & { readonly onDone: () => void }) {
  const [kind, setKind] = useState<'cent' | 'step' | 'endings'>(rounding?.kind ?? 'cent')
  const [mode, setMode] = useState<string>(rounding?.mode ?? 'half-up')
  const [step, setStep] = useState<string>(rounding?.kind === 'step' ? rounding.step : '0.05')
  const [endings, setEndings] = useState(rounding?.kind === 'endings' ? rounding.endings.join(', ') : '0.95')
  const [period, setPeriod] = useState<string>(rounding?.kind === 'endings' ? rounding.period : '1')
  const [problem, setProblem] = useState<string | null>(null)

  function draft(): RoundingDraft | null {
    if (kind === 'cent') return null
    if (kind === 'step') return { kind, step, mode: mode as 'half-up' }
    return { kind, period, endings: endings.split(/[,;]\s*|\s+/).filter(Boolean), mode: mode as 'nearest' }
  }
  return (
    <form
      className="flex flex-col gap-3 p-3"
      onSubmit={(event) => {
        event.preventDefault()
        void onSave(draft()).then((wrong) => (wrong === null ? onDone() : setProblem(wrong)))
      }}
    >
      <fieldset className="flex flex-col gap-1">
        <legend className="pb-1 text-xs font-semibold">Computed prices are rounded</legend>
        {(
          [
            ['cent', 'to the cent'],
            ['step', 'to a step'],
            ['endings', 'to an ending'],
          ] as const
        ).map(([value, name]) => (
          <label key={value} className="flex items-center gap-2">
            <input
              type="radio"
              name="rounding"
              checked={kind === value}
              onChange={() => {
                setKind(value)
                setMode(value === 'endings' ? 'nearest' : 'half-up')
              }}
            />
            {name}
          </label>
        ))}
      </fieldset>
      {kind === 'step' && (
        <label className="flex items-center gap-2">
          Step{' '}
          <input className={`${FIELD} w-24`} value={step} onChange={(event) => setStep(event.target.value)} />
        </label>
      )}
      {kind === 'endings' && (
        <>
          <label className="flex items-center gap-2">
            Endings{' '}
            <input
              className={`${FIELD} w-32`}
              value={endings}
              onChange={(event) => setEndings(event.target.value)}
            />
          </label>
          <label className="flex items-center gap-2">
            within every
            <select className={FIELD} value={period} onChange={(event) => setPeriod(event.target.value)}>
              {['1', '10', '100'].map((value) => (
                <option key={value}>{value}</option>
              ))}
            </select>
          </label>
        </>
      )}
      {kind !== 'cent' && (
        <label className="flex items-center gap-2">
          Direction
          <select className={FIELD} value={mode} onChange={(event) => setMode(event.target.value)}>
            {MODES[kind].map(([value, name]) => (
              <option key={value} value={value}>
                {name}
              </option>
            ))}
          </select>
        </label>
      )}
      <PickerButtons problem={problem} onCancel={onDone} />
    </form>
  )
}
