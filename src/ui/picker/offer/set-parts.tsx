'use client'

import type { SetPartText } from '@/core/notation/offer-text'
import { EVERYTHING, type What } from '@/core/predicates/what'
import { NO_ANSWER } from '@/ui/format/no-answer'
import { useState } from 'react'
import { useWhatSource } from '../picker-sources'
import { WhatPicker } from '../what/what-picker'
import { AmountInput } from '../amount-input'
import { RemoveButton, Row } from './saving-fields'

interface SetPartsProps {
  readonly parts: readonly SetPartText[]
  readonly onChange: (parts: readonly SetPartText[]) => void
}

/** Which part is being chosen for, and what it is of now. */
interface Choosing {
  readonly at: number
  readonly what: What
}

/** The parts of a set: how many units of what each takes. */
export function SetParts({ parts, onChange }: SetPartsProps) {
  const source = useWhatSource()
  const [choosing, setChoosing] = useState<Choosing | null>(null)
  const [problem, setProblem] = useState('')
  const put = (at: number, part: Partial<SetPartText>) =>
    onChange(parts.map((each, place) => (place === at ? { ...each, ...part } : each)))

  async function choose(at: number): Promise<void> {
    setProblem('')
    const of = parts[at]?.of ?? null
    if (of === null) return setChoosing({ at, what: EVERYTHING })
    const read = await source.read(of).catch(() => ({ ok: false, problem: NO_ANSWER }) as const)
    if (read.ok) setChoosing({ at, what: read.what })
    else setProblem(read.problem)
  }

  return (
    <>
      {parts.map(({ count, of }, at) => (
        <Row key={at} name={at === 0 ? 'A set is' : 'and'}>
          <AmountInput
            label={`Units of part ${at + 1}`}
            value={String(count)}
            onChange={(typed) => put(at, { count: Number(typed) })}
          />
          <span>of</span>
          <button
            type="button"
            className="border-b border-secondary font-semibold"
            aria-expanded={choosing?.at === at}
            onClick={() => void choose(at)}
          >
            {of ?? 'anything the promotion is for'}
          </button>
          {of !== null && (
            <button type="button" className="link-name" onClick={() => put(at, { of: null })}>
              of anything instead
            </button>
          )}
          {parts.length > 1 && (
            <RemoveButton
              label={`Remove part ${at + 1}`}
              onRemove={() => onChange(parts.filter((_, place) => place !== at))}
            />
          )}
        </Row>
      ))}
      <div>
        <button
          type="button"
          className="link-name"
          onClick={() => onChange([...parts, { count: 1, of: null }])}
        >
          Add a part
        </button>
      </div>
      {problem && (
        <p role="alert" className="text-error">
          {problem}
        </p>
      )}
      {choosing && (
        // Keys of the inner picker are its own.
        <div onKeyDown={(event) => event.stopPropagation()}>
          <WhatPicker
            key={choosing.at}
            label={`Part ${choosing.at + 1} of the set`}
            initial={choosing.what}
            source={source}
            onCancel={() => setChoosing(null)}
            onDone={(_what, text) => {
              put(choosing.at, { of: text })
              setChoosing(null)
              return Promise.resolve(null)
            }}
          />
        </div>
      )}
    </>
  )
}
