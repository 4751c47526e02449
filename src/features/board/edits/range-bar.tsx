'use client'

import { useState } from 'react'
import type { PastePlan } from './board-edits'
import { readRangeRule, type RangeRule } from './range-edit'

/** A column whose prices can be changed as a whole. */
interface ColumnChoice {
  readonly at: number
  readonly title: string
}

interface RangeBarProps {
  /** How many prices of the chosen cells can be changed. */
  readonly count: number
  readonly onPlan: (rule: RangeRule) => PastePlan
  readonly onPreview: (plan: PastePlan) => void
  readonly onFillDown?: () => void
  /** Whose prices they are, where a whole column is changed rather than a range that was drawn. */
  readonly whose?: {
    readonly at: number
    readonly columns: readonly ColumnChoice[]
    readonly onChoose: (at: number) => void
    readonly onClose: () => void
  }
}

/** Changes every chosen price by one rule, looked at before it is done. */
export function RangeBar({ count, onPlan, onPreview, onFillDown, whose }: RangeBarProps) {
  const [typed, setTyped] = useState('')
  const [problem, setProblem] = useState<string | null>(null)
  return (
    <form
      className="mx-4 flex flex-wrap items-center gap-3 border-t border-base-300 py-2"
      aria-label="Change the chosen prices"
      onSubmit={(event) => {
        event.preventDefault()
        const read = readRangeRule(typed)
        if (!read.ok) return setProblem(read.problem)
        setProblem(null)
        onPreview(onPlan(read.value))
      }}
    >
      <label className="flex items-baseline gap-2">
        {whose ? (
          <span className="flex items-baseline gap-1">
            Change the <b>{count}</b>
            <select
              aria-label="Whose prices"
              className="cursor-pointer bg-transparent word"
              value={whose.at}
              onChange={(event) => whose.onChoose(Number(event.target.value))}
            >
              {whose.columns.map(({ at, title }) => (
                <option key={at} value={at}>
                  {title}
                </option>
              ))}
            </select>
            prices shown
          </span>
        ) : (
          <span>
            Change the <b>{count} chosen prices</b>
          </span>
        )}
        <input
          aria-label="How they change"
          aria-invalid={problem !== null}
          placeholder="+4% .90"
          className="w-44 border border-base-300 bg-lifted px-2 py-1 aria-[invalid=true]:border-error"
          value={typed}
          onChange={(event) => {
            setTyped(event.target.value)
            setProblem(null)
          }}
        />
      </label>
      <button type="submit" className="btn btn-sm" disabled={typed.trim() === ''}>
        Preview
      </button>
      {onFillDown && (
        <button type="button" className="link-name" onClick={onFillDown}>
          Fill down <kbd className="text-xs">Ctrl D</kbd>
        </button>
      )}
      {problem ? (
        <span role="alert" className="text-error">
          {problem}
        </span>
      ) : (
        <span className="text-xs text-soft">+4%, -2, m35; a rounding behind it: .90, ends .49 .99, 0.05</span>
      )}
      {whose && (
        <button type="button" className="ml-auto link-name" onClick={whose.onClose}>
          Close
        </button>
      )}
    </form>
  )
}
