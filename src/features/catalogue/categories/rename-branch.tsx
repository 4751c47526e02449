'use client'

import { saveRecord } from '@/sheet/record/save/save-record'
import { NO_ANSWER } from '@/ui/format/no-answer'
import { useFrame } from '@/ui/frame/frame-context'
import { useState, useTransition } from 'react'
import type { TreeCategory } from './category-tree-view'

interface RenameBranchProps {
  readonly category: TreeCategory
  readonly onEnd: () => void
}

/** Another name for a category, typed at the foot of the tree. */
export function RenameBranch({ category: { id, code, name, revision }, onEnd }: RenameBranchProps) {
  const { vantage } = useFrame()
  const [typed, setTyped] = useState(name)
  const [problem, setProblem] = useState<string | null>(null)
  const [isBusy, begin] = useTransition()
  const save = () =>
    begin(async () => {
      const sheet = { kind: 'category', id, label: code, revision, vantage, copyOf: null } as const
      const outcome = await saveRecord(sheet, { name: typed }).catch(
        () => ({ ok: false, problem: NO_ANSWER }) as const,
      )
      if (!outcome.ok) return setProblem(outcome.problem)
      onEnd()
    })
  return (
    <form
      className="flex flex-wrap items-baseline gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        save()
      }}
    >
      <label>
        Name{' '}
        <input
          autoFocus
          className="ml-1 w-64 border border-base-300 bg-lifted px-2 py-0.5"
          value={typed}
          disabled={isBusy}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => event.key === 'Escape' && onEnd()}
        />
      </label>
      <span className="text-xs text-soft">
        <kbd className="kbd kbd-xs">Enter</kbd> keeps it · <kbd className="kbd kbd-xs">Esc</kbd> leaves it
      </span>
      {problem && (
        <span role="alert" className="text-error">
          {problem}
        </span>
      )}
    </form>
  )
}
