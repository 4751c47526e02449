'use client'

import type { Vantage } from '@/core/engine/context/vantage'
import { useFrame } from '@/ui/frame/frame-context'
import { serializeVantage } from '@/ui/frame/vantage-url'
import { WordPopover } from '@/ui/picker/word-popover'
import { useState } from 'react'
import type { BoardColumn } from '../board-view'
import { readColumnSets, writeColumnSets } from './column-sets'

interface ColumnsWordProps {
  readonly columns: readonly BoardColumn[]
  /** Whether they were chosen, and are not guests and every group. */
  readonly chosen: boolean
  readonly onChoose: (columns: readonly Vantage[]) => void
}

/** Which vantages stand side by side: whatever is looked from now can be held as a column, and sets be kept by name. */
export function ColumnsWord({ columns, chosen, onChoose }: ColumnsWordProps) {
  return (
    <WordPopover
      word={chosen ? `${columns.length} ${columns.length === 1 ? 'column' : 'columns'}` : 'every group'}
      label="Columns"
      disabled={false}
    >
      {(close) => <ColumnsForm columns={columns} chosen={chosen} onChoose={onChoose} onDone={close} />}
    </WordPopover>
  )
}

function ColumnsForm({
  columns,
  chosen,
  onChoose,
  onDone,
}: ColumnsWordProps & { readonly onDone: () => void }) {
  const { vantage } = useFrame()
  const [sets, setSets] = useState(readColumnSets)
  const [name, setName] = useState('')
  const vantages = columns.map((column) => column.vantage)
  const here = serializeVantage(vantage).toString()
  const isHeld = chosen && columns.some((column) => serializeVantage(column.vantage).toString() === here)

  function keep(next: typeof sets): void {
    writeColumnSets(next)
    setSets(next)
  }
  const choose = (next: readonly Vantage[]) => {
    onChoose(next)
    onDone()
  }
  return (
    <div className="flex flex-col gap-2 p-3">
      <ul className="max-h-56 overflow-auto">
        {columns.map(({ key, title, subtitle }, at) => (
          <li
            key={key}
            className="flex items-baseline justify-between gap-3 border-b border-dotted border-base-300 py-0.5"
          >
            <span>
              {title} <span className="text-soft">{subtitle}</span>
            </span>
            {columns.length > 1 && (
              <button
                type="button"
                aria-label={`Leave out ${title}`}
                className="text-soft hover:text-base-content"
                onClick={() => choose(vantages.filter((_, other) => other !== at))}
              >
                ×
              </button>
            )}
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="text-left link-name"
        disabled={isHeld}
        onClick={() => choose([...(chosen ? vantages : []), vantage])}
      >
        {isHeld ? 'What you look from stands here' : 'Hold what I look from as a column'}
      </button>
      {chosen && (
        <button type="button" className="text-left link-name" onClick={() => choose([])}>
          Guests and every group again
        </button>
      )}
      {sets.length > 0 && (
        <ul aria-label="Kept sets" className="border-t border-base-300 pt-2">
          {sets.map((set) => (
            <li key={set.name} className="flex justify-between gap-3">
              <button type="button" className="link-name" onClick={() => choose(set.columns)}>
                {set.name}
              </button>
              <button
                type="button"
                aria-label={`Forget ${set.name}`}
                className="text-soft hover:text-base-content"
                onClick={() => keep(sets.filter((each) => each !== set))}
              >
                ×
              </button>
            </li>
          ))}
        </ul>
      )}
      <form
        className="flex gap-2 border-t border-base-300 pt-2"
        onSubmit={(event) => {
          event.preventDefault()
          if (name.trim() === '') return
          keep([...sets.filter((set) => set.name !== name.trim()), { name: name.trim(), columns: vantages }])
          setName('')
        }}
      >
        <input
          aria-label="Keep these columns as"
          placeholder="Keep these as…"
          className="min-w-0 flex-1 border border-base-300 bg-lifted px-2 py-1"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <button type="submit" className="btn btn-sm">
          Keep
        </button>
      </form>
    </div>
  )
}
