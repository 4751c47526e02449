'use client'

import { capital } from '@/ui/format/capital'
import { PickerWord } from '@/ui/picker/picker-word'
import type { FieldView, Sentence } from '../sheet-view'

interface SheetSentenceProps {
  readonly sentence: Sentence
  readonly fields: readonly FieldView[]
  readonly disabled: boolean
  /** The field whose control is open, and what is chosen in it by now. */
  readonly opened: { readonly field: string; readonly words: string } | null
  readonly onOpen: (field: string) => void
}

/** A rule as a sentence, each word that can be changed a control. */
export function SheetSentence({ sentence, fields, disabled, opened, onOpen }: SheetSentenceProps) {
  return (
    <>
      {sentence.map((part, at) => {
        if (part === '\n') return <br key={at} />
        if (typeof part === 'string')
          return (
            <span key={at} className="text-soft">
              {part}
            </span>
          )
        const field = fields.find((each) => each.field === part.field)
        if (!field) return null
        const said = part.words || field.phrase || 'nothing'
        // A sentence begins with a capital letter.
        const words = at === 0 ? capital(said) : said
        const isOpen = opened?.field === field.field
        return (
          <span key={at}>
            {field.before !== null && !isOpen && (
              <s className="mr-1 text-sm text-soft decoration-accent" title={`${field.name} as saved`}>
                {field.before}
              </s>
            )}
            <span className={field.before !== null ? 'bg-warning px-0.5' : ''}>
              <PickerWord
                word={isOpen ? (opened?.words ?? words) : words}
                label={field.name}
                isOpen={isOpen}
                disabled={disabled || field.control === 'on-sheet'}
                onOpen={() => onOpen(field.field)}
              />
            </span>
          </span>
        )
      })}
    </>
  )
}
