'use client'

import type { What } from '@/core/predicates/what'
import { useWhatSource } from '@/ui/picker/picker-sources'
import { useLoaded } from '@/ui/frame/use-loaded'
import { WhatPicker } from '@/ui/picker/what/what-picker'
import { useId, useState } from 'react'

interface AddLineFormProps {
  /** Resolves to what is wrong, or `null` when the line was added. */
  readonly onAdd: (what: string, rule: string) => Promise<string | null>
}

const NOTHING: What = { include: [], exclude: [] }
const FIELD = 'border-base-300 bg-lifted border px-2 py-1 aria-[invalid=true]:border-error'

/** A new line: what it is for, and its rule. */
export function AddLineForm({ onAdd }: AddLineFormProps) {
  const [what, setWhat] = useState('')
  const [rule, setRule] = useState('')
  const [problem, setProblem] = useState<string | null>(null)
  const [focused, setFocused] = useState(false)
  const id = useId()
  const { value } = useLoaded<readonly { value: string; about: string }[]>(
    focused && what.trim() ? `/api/items?words=${encodeURIComponent(what)}` : null,
    0,
  )
  const source = useWhatSource()
  const [isOpen, setOpen] = useState(false)
  return (
    <>
      <form
        className="flex flex-wrap items-center gap-2 px-6 py-2"
        aria-label="Add a line"
        onSubmit={(event) => {
          event.preventDefault()
          void onAdd(what, rule).then((wrong) => {
            setProblem(wrong)
            if (wrong !== null) return
            setWhat('')
            setRule('')
          })
        }}
      >
        <span className="font-semibold">Add a line</span>
        <input
          aria-label="What the line is for"
          aria-invalid={problem !== null}
          list={id}
          placeholder="SKU, product code or category"
          className={`${FIELD} w-64`}
          value={what}
          onFocus={() => setFocused(true)}
          onChange={(event) => setWhat(event.target.value)}
        />
        <datalist id={id}>
          {value?.map((item) => (
            <option key={`${item.value} ${item.about}`} value={item.value} label={item.about} />
          ))}
        </datalist>
        <button type="button" className="link-name" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          Choose …
        </button>
        <input
          aria-label="Its rule"
          aria-invalid={problem !== null}
          placeholder="-12%, -0.60 or 17.60"
          className={`${FIELD} w-40`}
          value={rule}
          onChange={(event) => setRule(event.target.value)}
        />
        <button type="submit" className="btn btn-primary btn-sm">
          Add
        </button>
        {problem && (
          <p role="alert" className="text-error">
            {problem}
          </p>
        )}
      </form>
      {isOpen && (
        <WhatPicker
          label="What the new line is for"
          initial={NOTHING}
          source={source}
          onCancel={() => setOpen(false)}
          onDone={async (_what, text) => {
            setWhat(text)
            setOpen(false)
            return null
          }}
        />
      )}
    </>
  )
}
