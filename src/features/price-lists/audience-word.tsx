'use client'

import type { WhoTerm } from '@/core/predicates/who'
import { WordPopover } from '@/ui/picker/word-popover'
import { useState } from 'react'
import {
  Autocomplete,
  Header,
  Input,
  ListBox,
  ListBoxItem,
  ListBoxSection,
  SearchField,
  useFilter,
} from 'react-aria-components'
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

const SECTIONS = ['Everyone', 'Groups', 'Tags', 'Accounts'] as const

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
  const { contains } = useFilter({ sensitivity: 'base' })
  // Terms nobody can tick here (single e-mail addresses) stay as they are.
  const kept = chosen.filter((term) => !choices.some(({ key }) => key === termKey(term)))

  function save(): void {
    const terms = [...kept, ...choices.filter(({ key }) => keys.has(key)).map(({ term }) => term)]
    void onSave(terms).then((wrong) => (wrong === null ? onDone() : setProblem(wrong)))
  }
  return (
    <>
      <Autocomplete filter={contains}>
        <SearchField autoFocus aria-label="Find a group or an account" className="border-b border-base-300">
          <Input
            placeholder="Find a group, tag or account"
            className="w-full bg-transparent px-3 py-2 outline-none"
          />
        </SearchField>
        <div
          role="region"
          aria-label="All of them"
          tabIndex={0}
          className="max-h-72 min-h-0 flex-1 overflow-auto"
        >
          <ListBox
            aria-label={label}
            selectionMode="multiple"
            selectedKeys={keys}
            onSelectionChange={(selected) =>
              setKeys(new Set(selected === 'all' ? choices.map(({ key }) => key) : [...selected].map(String)))
            }
            className="py-1 outline-none"
            renderEmptyState={() => <p className="px-3 py-2 text-soft">Nobody is called that.</p>}
          >
            {SECTIONS.map((section) => (
              <ListBoxSection key={section} id={section}>
                <Header className="px-3 pt-2 pb-0.5 text-2xs font-semibold text-soft">{section}</Header>
                {choices
                  .filter((choice) => choice.section === section)
                  .map(({ key, name }) => (
                    <ListBoxItem
                      key={key}
                      id={key}
                      textValue={name}
                      className="flex cursor-pointer gap-2 px-3 py-1 outline-none data-[focused]:bg-chosen"
                    >
                      {({ isSelected }) => (
                        <>
                          <span
                            aria-hidden
                            className={`mt-0.5 size-4 shrink-0 border text-center text-xs leading-[14px] ${isSelected ? 'border-primary bg-primary text-primary-content' : 'border-soft'}`}
                          >
                            {isSelected ? '✓' : ''}
                          </span>
                          {name}
                        </>
                      )}
                    </ListBoxItem>
                  ))}
              </ListBoxSection>
            ))}
          </ListBox>
        </div>
      </Autocomplete>
      <div className="flex flex-wrap items-center gap-2 border-t border-base-300 p-3">
        {problem && (
          <p role="alert" className="w-full text-xs text-error">
            {problem}
          </p>
        )}
        <button type="button" className="btn btn-primary btn-sm" onClick={save}>
          Save
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onDone}>
          Cancel
        </button>
      </div>
    </>
  )
}
