'use client'

import { EVERYTHING, type What } from '@/core/predicates/what'
import type { Who } from '@/core/predicates/who'
import { useWhatSource, useWhoSource } from '@/ui/picker/picker-sources'
import { PickerWord } from '@/ui/picker/picker-word'
import { WhatPicker } from '@/ui/picker/what/what-picker'
import { WhoPicker } from '@/ui/picker/who/who-picker'
import { type ReactNode, useState } from 'react'
import type { NarrowingView } from './staff-view'

/** Whoever is narrowed to some is narrowed to those that are chosen, not to everyone and them. */
const NOBODY_YET: Who = { include: [], exclude: [] }

interface NarrowingWordsProps {
  readonly value: NarrowingView
  readonly disabled: boolean
  readonly onChange: (next: NarrowingView) => void
  /** The sentence before the two words. */
  readonly children: ReactNode
}

/** A sentence that ends with which buyers somebody sees and what they change; each word opens its picker. */
export function NarrowingWords({ value, disabled, onChange, children }: NarrowingWordsProps) {
  const [open, setOpen] = useState<'who' | 'what' | null>(null)
  const loadWho = useWhoSource()
  const source = useWhatSource()
  const [words, setWords] = useState<string | null>(null)
  const shut = () => {
    setOpen(null)
    setWords(null)
  }
  return (
    <>
      <p className="max-w-3xl text-lg leading-9">
        {children} sees{' '}
        <PickerWord
          word={open === 'who' && words !== null ? words : value.whoWords}
          label="Which buyers"
          isOpen={open === 'who'}
          disabled={disabled}
          onOpen={() => setOpen(open === 'who' ? null : 'who')}
        />{' '}
        and may change prices of{' '}
        <PickerWord
          word={open === 'what' && words !== null ? words : value.whatWords}
          label="Which items"
          isOpen={open === 'what'}
          disabled={disabled}
          onOpen={() => setOpen(open === 'what' ? null : 'what')}
        />
        .
      </p>
      {open === 'who' && (
        <WhoPicker
          label="Which buyers"
          initial={value.who ?? NOBODY_YET}
          load={loadWho}
          onChange={setWords}
          onCancel={shut}
          onDone={async (who: Who) => {
            const isAll = who.exclude.length === 0 && who.include.some(({ kind }) => kind === 'everyone')
            onChange({
              ...value,
              who: isAll ? null : who,
              whoWords: isAll ? 'every buyer' : (words ?? value.whoWords),
            })
            shut()
            return null
          }}
        />
      )}
      {open === 'what' && (
        <WhatPicker
          label="Which items"
          initial={value.what ?? EVERYTHING}
          source={source}
          onChange={setWords}
          onCancel={shut}
          onDone={async (what: What) => {
            const isAll = what.exclude.length === 0 && what.include.some(({ kind }) => kind === 'everything')
            onChange({
              ...value,
              what: isAll ? null : what,
              whatWords: isAll ? 'everything' : (words ?? value.whatWords),
            })
            shut()
            return null
          }}
        />
      )}
    </>
  )
}
