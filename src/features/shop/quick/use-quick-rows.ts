'use client'

import { type ClipboardEvent, type KeyboardEvent, type RefObject, useRef, useState } from 'react'
import { EMPTY_ROW, isEmpty, MOST_ROWS, type QuickRow, readPasted, withNext, withRows } from './quick-rows'
import type { ResolvedOrder } from './resolved'
import { type Purpose, type Resolved, useResolved } from './use-resolved'

type RowField = 'sku' | 'quantity' | 'wish'

/** Rows that are typed, pasted or read out of a file, with what each comes to. */
export interface QuickRows extends Resolved {
  readonly rows: readonly QuickRow[]
  readonly setRows: (rows: readonly QuickRow[]) => void
  readonly problem: string
  readonly setProblem: (problem: string) => void
  readonly table: RefObject<HTMLTableElement | null>
  readonly set: (at: number, part: Partial<QuickRow>) => void
  readonly onKey: (event: KeyboardEvent, row: number, field: RowField) => void
  readonly onPaste: (event: ClipboardEvent, row: number) => void
  readonly onFile: (file: File | undefined) => Promise<void>
}

/** Another item is wanted without what went with the one before. */
function changed({ extras, ...row }: QuickRow, part: Partial<QuickRow>): QuickRow {
  return { ...row, ...(extras && part.sku === undefined ? { extras } : {}), ...part }
}

export function useQuickRows(
  first: ResolvedOrder,
  purpose: Purpose,
  {
    begun = [],
    onChange = () => {},
  }: { readonly begun?: readonly QuickRow[]; readonly onChange?: () => void } = {},
): QuickRows {
  const [rows, setRows] = useState<readonly QuickRow[]>(begun.length > 0 ? withNext(begun) : [EMPTY_ROW])
  const [problem, setProblem] = useState('')
  const resolved = useResolved(rows, first, purpose)
  const table = useRef<HTMLTableElement>(null)

  function change(next: readonly QuickRow[]): void {
    if (next.length > MOST_ROWS + 1)
      return setProblem(`${MOST_ROWS} rows can be sent at once. Send these first.`)
    setProblem('')
    onChange()
    setRows(next)
  }
  const set = (at: number, part: Partial<QuickRow>) =>
    change(withNext(rows.map((row, place) => (place === at ? changed(row, part) : row))))
  const focus = (row: number, field: RowField) =>
    table.current?.querySelector<HTMLInputElement>(`[data-row="${row}"][data-field="${field}"]`)?.focus()

  function onKey(event: KeyboardEvent, row: number, field: RowField): void {
    if (event.key === 'Enter') {
      event.preventDefault()
      if (field === 'sku') focus(row, 'quantity')
      else focus(row + 1, 'sku')
    } else if (event.key === 'ArrowDown') focus(row + 1, field)
    else if (event.key === 'ArrowUp') focus(row - 1, field)
  }
  function onPaste(event: ClipboardEvent, row: number): void {
    const pasted = event.clipboardData.getData('text')
    // A SKU alone goes into its field.
    if (!/[\n\t]/.test(pasted) && !/\S[\s,;]+\d/.test(pasted.trim())) return
    event.preventDefault()
    const next = withRows(rows, row, readPasted(pasted))
    change(next)
    // Where the next line goes.
    requestAnimationFrame(() => focus(next.length - 1, 'sku'))
  }
  async function onFile(file: File | undefined): Promise<void> {
    if (!file) return
    setProblem('')
    const read = (await fetch('/api/shop/quick/file', {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream' },
      body: file,
    })
      .then((response) => response.json())
      .catch(() => ({ problem: 'The file could not be sent. Try again.' }))) as {
      readonly rows?: readonly QuickRow[]
      readonly problem?: string
    }
    if (read.rows) change(withNext([...rows.filter((row) => !isEmpty(row)), ...read.rows]))
    else setProblem(read.problem ?? 'The file could not be read.')
  }
  return { ...resolved, rows, setRows, problem, setProblem, table, set, onKey, onPaste, onFile }
}
