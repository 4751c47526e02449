'use client'

import type { What } from '@/core/predicates/what'
import type { Who } from '@/core/predicates/who'
import { useWhatSource, useWhoSource } from '@/ui/picker/picker-sources'
import { WhatPicker } from '@/ui/picker/what/what-picker'
import { WhoPicker } from '@/ui/picker/who/who-picker'
import type { FieldView } from './record-view'

/** What was chosen in a picker, of either kind. */
export type Picked =
  { readonly kind: 'who'; readonly who: Who } | { readonly kind: 'what'; readonly what: What }

interface FieldPickerProps {
  readonly field: FieldView
  readonly label: string
  readonly initial: Picked
  readonly mayBeEmpty: boolean
  readonly onChange: (words: string) => void
  readonly onCancel: () => void
  readonly onDone: (picked: Picked, text: string) => Promise<string | null>
}

/** What the picker of a field starts from; `null` for a field that is typed. */
export function pickedOf({ who, what }: FieldView): Picked | null {
  if (who) return { kind: 'who', who }
  return what && { kind: 'what', what }
}

/** The picker of a field that is an audience or a scope. */
export function FieldPicker({ label, initial, mayBeEmpty, onChange, onCancel, onDone }: FieldPickerProps) {
  const source = useWhatSource()
  const loadWho = useWhoSource()
  const shared = { label, onChange, onCancel }
  return initial.kind === 'who' ? (
    <WhoPicker
      {...shared}
      initial={initial.who}
      mayBeEmpty={mayBeEmpty}
      load={loadWho}
      onDone={(who, text) => onDone({ kind: 'who', who }, text)}
    />
  ) : (
    <WhatPicker
      {...shared}
      initial={initial.what}
      source={source}
      onDone={(what, text) => onDone({ kind: 'what', what }, text)}
    />
  )
}
