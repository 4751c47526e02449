'use client'

import type { KeyboardEvent } from 'react'

/** What the keys of a picker do. */
export interface PickerKeys {
  readonly onDone: () => void
  readonly onCancel: () => void
  /** `null` where there is nothing to remove one by one. */
  readonly onRemoveLast: (() => void) | null
}

/**
 * Moves about in a picker by keys: up and down in a column, Tab from one to the next (which the browser does), Enter keeps,
 * Escape restores. Rows are marked with `data-row`, columns with `data-column`.
 */
export function pickerKeys({ onDone, onCancel, onRemoveLast }: PickerKeys) {
  return (event: KeyboardEvent<HTMLElement>) => {
    const target = event.target as HTMLElement
    const input = target instanceof HTMLInputElement ? target : null
    if (event.key === 'Escape') {
      event.preventDefault()
      event.stopPropagation()
      return onCancel()
    }
    if (event.key === 'Enter' && target.tagName !== 'BUTTON' && !event.shiftKey) {
      event.preventDefault()
      return onDone()
    }
    if (event.key === 'Enter' && target.dataset['row'] !== undefined) {
      event.preventDefault()
      return onDone()
    }
    if (onRemoveLast && event.key === 'Backspace' && (input === null || input.value === '')) {
      event.preventDefault()
      return onRemoveLast()
    }
    if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return
    const picker = event.currentTarget
    const column =
      target.closest<HTMLElement>('[data-column]') ?? picker.querySelector<HTMLElement>('[data-column]')
    const rows = [...(column?.querySelectorAll<HTMLElement>('[data-row]') ?? [])]
    if (rows.length === 0) return
    event.preventDefault()
    const at = rows.indexOf(target)
    const next =
      at < 0 ? 0 : Math.min(rows.length - 1, Math.max(0, at + (event.key === 'ArrowDown' ? 1 : -1)))
    for (const row of rows) row.tabIndex = -1
    const row = rows[next] as HTMLElement
    row.tabIndex = 0
    row.focus()
  }
}
