'use client'

import { type ReactNode, useActionState } from 'react'
import type { DoorState } from './sign-in-actions'

interface DoorField {
  readonly name: string
  readonly label: string
  readonly type?: 'text' | 'email' | 'password'
  readonly autoComplete: string
  readonly about?: string
  readonly isCode?: boolean
}

interface DoorFormProps {
  readonly action: (before: DoorState, form: FormData) => Promise<DoorState>
  readonly fields: readonly DoorField[]
  readonly button: string
  /** What goes along unseen. */
  readonly hidden?: Readonly<Record<string, string>>
  readonly children?: ReactNode
}

const BEGUN: DoorState = { problem: null, typed: {} }

/** A few fields and one button; what is wrong stands beside the field, and what was typed stays. */
export function DoorForm({ action, fields, button, hidden = {}, children }: DoorFormProps) {
  const [state, submit, isBusy] = useActionState(action, BEGUN)
  const { problem, typed, told } = state
  return (
    <form action={submit} className="flex flex-col gap-4" noValidate>
      {Object.entries(hidden).map(([name, value]) => (
        <input key={name} type="hidden" name={name} value={value} />
      ))}
      {problem?.field === '' && (
        <p role="alert" className="text-error">
          {problem.words}
        </p>
      )}
      {fields.map(({ name, label, type = 'text', autoComplete, about, isCode }, at) => {
        const isWrong = problem?.field === name
        return (
          <label key={name} className="block">
            <span className="font-semibold">{label}</span>
            {about && <span className="block text-soft">{about}</span>}
            <input
              className={`mt-1 w-full border bg-lifted px-3 py-2 text-base ${isWrong ? 'border-error' : 'border-base-300'} ${isCode ? 'tracking-widest' : ''}`}
              name={name}
              type={type}
              autoComplete={autoComplete}
              autoFocus={problem === null ? at === 0 : isWrong}
              key={isWrong ? `${name} again` : name}
              defaultValue={typed[name] ?? ''}
              aria-invalid={isWrong}
              maxLength={name === 'email' || name === 'name' ? 120 : 200}
              spellCheck={false}
            />
            {isWrong && (
              <span role="alert" className="block pt-1 text-error">
                {problem.words}
              </span>
            )}
          </label>
        )
      })}
      {told && (
        <p role="status" className="border-l-4 border-primary pl-3">
          {told}
        </p>
      )}
      <div className="flex items-center gap-5 pt-2">
        <button type="submit" className="btn btn-primary" disabled={isBusy}>
          {button}
        </button>
        {children}
      </div>
    </form>
  )
}
