'use client'

import { useState } from 'react'
import type { PastePlan } from './board-edits'
import { readRangeRule, type RangeRule } from './range-edit'

interface RangeBarProps {
  /** How many prices of the chosen cells can be changed. */
  readonly count: number
  readonly onPlan: (rule: RangeRule) => PastePlan
  readonly onPreview: (plan: PastePlan) => void
  readonly onFillDown: () => void
}

/** Changes every chosen price by one rule, looked at before it is done. */
export function RangeBar({ count, onPlan, onPreview, onFillDown }: RangeBarProps) {
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
        <span>
          Change the <b>{count} chosen prices</b>
        </span>
        <input
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
      <button type="button" className="link-name" onClick={onFillDown}>
        Fill down <kbd className="text-xs">Ctrl D</kbd>
      </button>
      {problem ? (
        <span role="alert" className="text-error">
          {problem}
        </span>
      ) : (
        <span className="text-xs text-soft">+4%, -2, m35; a rounding behind it: .90, ends .49 .99, 0.05</span>
      )}
    </form>
  )
}
