'use client'

import { saveRecord } from '@/sheet/record/save/save-record'
import { referenceTo } from '@/sheet/record/save/use-typed'
import type { SheetView } from '@/sheet/record/sheet-view'
import { useFrame } from '@/ui/frame/frame-context'
import { useRouter } from 'next/navigation'
import { useState } from 'react'

interface WrittenRows<Row> {
  /** Position of the row that is open; `null` where none is. */
  readonly open: number | null
  readonly row: Row
  readonly setRow: (row: Row) => void
  readonly problem: string | null
  readonly begin: (at: number) => void
  readonly close: () => void
  /** Saves the row that is open, or the rows without it. */
  readonly save: () => void
  readonly remove: () => void
}

/** Rows of a field that is written a line each, its parts between bars: one of them open at a time. */
export function useWrittenRows<Row>(
  view: SheetView,
  field: string,
  rows: readonly Row[],
  { empty, write }: { readonly empty: Row; readonly write: (row: Row) => readonly string[] },
): WrittenRows<Row> {
  const [open, setOpen] = useState<number | null>(null)
  const [row, setRow] = useState<Row>(empty)
  const [problem, setProblem] = useState<string | null>(null)
  const router = useRouter()
  const { pricesChanged } = useFrame()

  async function saveAll(next: readonly Row[]): Promise<void> {
    const text = next
      .map((each) =>
        write(each)
          .map((part) => part.replaceAll('|', '/').trim())
          .join(' | '),
      )
      .join('\n')
    const outcome = await saveRecord(referenceTo(view), { [field]: text })
    setProblem(outcome.ok ? null : outcome.problem)
    if (!outcome.ok) return
    setOpen(null)
    pricesChanged(outcome.changeSet)
    router.refresh()
  }
  return {
    ...{ open, row, setRow, problem },
    begin: (at) => {
      setOpen(at)
      setProblem(null)
      setRow(rows[at] ?? empty)
    },
    close: () => setOpen(null),
    save: () => {
      const next = [...rows]
      if (open !== null) next[open] = row
      void saveAll(next)
    },
    remove: () => void saveAll(rows.filter((_, at) => at !== open)),
  }
}
