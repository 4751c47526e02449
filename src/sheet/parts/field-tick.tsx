'use client'

import { useState, useTransition } from 'react'
import { useFieldEdit } from '../record/field-edit'

interface FieldChangeProps {
  readonly field: string
  /** What the field says then, as it is typed. */
  readonly text: string
  readonly label: string
}

function useFieldChange({ field, text }: FieldChangeProps) {
  const edit = useFieldEdit()
  const [problem, setProblem] = useState<string | null>(null)
  const [isBusy, startTransition] = useTransition()
  return {
    isOff: edit === null || isBusy,
    problem,
    change: () => startTransition(async () => setProblem((await edit?.(field, text)) ?? null)),
  }
}

/** A tick at a row that takes what the row is about out of a rule, or back into it. */
export function FieldTick(props: FieldChangeProps & { readonly isIn: boolean }) {
  const { isOff, problem, change } = useFieldChange(props)
  return (
    <>
      <input
        type="checkbox"
        className="checkbox mr-2 checkbox-xs align-[-3px] checkbox-primary"
        aria-label={props.label}
        checked={props.isIn}
        disabled={isOff}
        onChange={change}
      />
      {problem && (
        <span role="alert" className="text-error">
          {problem}{' '}
        </span>
      )}
    </>
  )
}

/** A link that changes a rule as it says. */
export function FieldLink(props: FieldChangeProps) {
  const { isOff, problem, change } = useFieldChange(props)
  return (
    <>
      <button type="button" className="link-name" disabled={isOff} onClick={change}>
        {props.label}
      </button>
      {problem && (
        <span role="alert" className="block text-error">
          {problem}
        </span>
      )}
    </>
  )
}
