'use client'

import type { WhoTerm } from '@/core/predicates/who'
import { PickerButtons } from '@/ui/picker/picker-buttons'
import { SearchList } from '@/ui/picker/search-list'
import { WordPopover } from '@/ui/picker/word-popover'
import { useState } from 'react'
import { type AudienceChoice, termKey } from './price-list-view'

interface AudienceWordProps {
  readonly word: string
  readonly label: string
  readonly chosen: readonly WhoTerm[]
  readonly choices: readonly AudienceChoice[]
  readonly disabled: boolean
  /** Resolves to what is wrong, or `null` when it was taken. */
  readonly onSave: (terms: readonly WhoTerm[]) => Promise<string | null>
}

const SECTIONS = ['Everyone', 'Groups', 'Tags', 'Accounts']

/** Who a price list is for (or leaves out), as a word that opens into everybody it can name. */
export function AudienceWord(props: AudienceWordProps) {
  return (
    <WordPopover word={props.word} label={props.label} disabled={props.disabled}>
      {(close) => <AudienceForm {...props} onDone={close} />}
    </WordPopover>
  )
}

function AudienceForm({
  label,
  chosen,
  choices,
  onSave,
  onDone,
}: AudienceWordProps & { readonly onDone: () => void }) {
  const [keys, setKeys] = useState<ReadonlySet<string>>(() => new Set(chosen.map(termKey)))
  const [problem, setProblem] = useState<string | null>(null)
  // Terms nobody can tick here (single e-mail addresses) stay as they are.
  const kept = chosen.filter((term) => !choices.some(({ key }) => key === termKey(term)))

  function save(): void {
    const terms = [...kept, ...choices.filter(({ key }) => keys.has(key)).map(({ term }) => term)]
    void onSave(terms).then((wrong) => (wrong === null ? onDone() : setProblem(wrong)))
  }
  return (
    <>
      <SearchList
        label={label}
        searchLabel="Find a group or an account"
        placeholder="Find a group, tag or account"
        sections={SECTIONS}
        items={choices}
        renderItem={({ name }, chosenHere) => (
          <>
            <span
              aria-hidden
              className={`mt-0.5 size-4 shrink-0 border text-center text-xs leading-[14px] ${
                chosenHere ? 'border-primary bg-primary text-primary-content' : 'border-soft'
              }`}
            >
              {chosenHere ? '✓' : ''}
            </span>
            {name}
          </>
        )}
        choice={{
          selectionMode: 'multiple',
          selectedKeys: keys,
          onSelectionChange: (selected) =>
            setKeys(new Set(selected === 'all' ? choices.map(({ key }) => key) : [...selected].map(String))),
        }}
      />
      <div className="flex flex-col gap-2 border-t border-base-300 p-3">
        <PickerButtons problem={problem} onSave={save} onCancel={onDone} />
      </div>
    </>
  )
}
