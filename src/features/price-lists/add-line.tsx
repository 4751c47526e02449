'use client'

import type { What } from '@/core/predicates/what'
import { useWhatSource } from '@/ui/picker/picker-sources'
import { PickerWord } from '@/ui/picker/picker-word'
import { RulePicker } from '@/ui/picker/rule/rule-picker'
import { Unrolled } from '@/ui/picker/panel/unrolled'
import { WhatPicker } from '@/ui/picker/what/what-picker'
import { useState } from 'react'

interface AddLineProps {
  /** Id of the price list. */
  readonly list: string
  /** Resolves to what is wrong, or `null` when the line was added. */
  readonly onAdd: (what: string, rule: string) => Promise<string | null>
}

interface Chosen {
  readonly what: What
  /** As it is typed. */
  readonly text: string
  /** As the sentence says it. */
  readonly words: string
}

const NOTHING: Chosen = { what: { include: [], exclude: [] }, text: '', words: '' }

/** A new line, said as a sentence: what it is for, then what is paid. The line is there as soon as both are known. */
export function AddLine({ list, onAdd }: AddLineProps) {
  const source = useWhatSource()
  const [chosen, setChosen] = useState(NOTHING)
  const [opened, setOpened] = useState<'what' | 'rule' | null>(null)
  const [words, setWords] = useState('')
  const open = (word: 'what' | 'rule', said: string) => {
    setOpened(word)
    setWords(said)
  }
  return (
    <section aria-label="Add a line">
      <p className="px-6 py-3 text-base leading-8">
        <span className="text-soft">{chosen.text === '' ? 'Add a line for ' : 'A new line for '}</span>
        <PickerWord
          word={opened === 'what' ? words || 'nothing yet' : chosen.words || 'some items'}
          label="What the new line is for"
          isOpen={opened === 'what'}
          disabled={false}
          onOpen={() => open('what', chosen.words)}
        />
        {chosen.text !== '' && (
          <>
            <span className="text-soft">: </span>
            <PickerWord
              word={opened === 'rule' ? words || 'what they cost' : 'what they cost'}
              label="Rule of the new line"
              isOpen={opened === 'rule'}
              disabled={false}
              onOpen={() => open('rule', '')}
            />
          </>
        )}
        <span className="text-soft">.</span>
      </p>
      {opened === 'what' && (
        <Unrolled>
          <WhatPicker
            label="What the new line is for"
            initial={chosen.what}
            source={source}
            onChange={setWords}
            onCancel={() => setOpened(null)}
            onDone={async (what, text) => {
              setChosen({ what, text, words: words || text })
              open('rule', '')
              return null
            }}
          />
        </Unrolled>
      )}
      {opened === 'rule' && (
        <Unrolled>
          <RulePicker
            label="Rule of the new line"
            initial=""
            context={{ list, party: null, line: null, what: chosen.text }}
            onChange={setWords}
            onCancel={() => setOpened(null)}
            onDone={async (rule) => {
              const wrong = await onAdd(chosen.text, rule)
              if (wrong !== null) return wrong
              setChosen(NOTHING)
              setOpened(null)
              return null
            }}
          />
        </Unrolled>
      )}
    </section>
  )
}
