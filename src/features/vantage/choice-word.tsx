'use client'

import { SearchList } from '@/ui/picker/search-list'
import { WordPopover } from '@/ui/picker/word-popover'
import type { Choice } from './vantage-view'

interface ChoiceWordProps {
  readonly label: string
  readonly choices: readonly Choice[]
  /** `null` is what follows by itself. */
  readonly chosen: string | null
  /** The code that follows by itself. */
  readonly following: string
  /** What stands in the sentence while nothing is chosen; the name of what follows by itself without one. */
  readonly followingName?: string
  /** What is chosen in words, where it is none of the choices. */
  readonly chosenName?: string | null
  readonly onPick: (code: string | null) => void
}

const BY_ITSELF = 'by itself'

/** A word of the vantage sentence that opens into a few things to choose from. */
export function ChoiceWord(props: ChoiceWordProps) {
  const { label, choices, chosen, following, followingName, chosenName, onPick } = props
  const nameOf = (code: string) => choices.find((choice) => choice.code === code)?.name ?? code
  const natural = followingName ?? nameOf(following)
  return (
    <WordPopover
      word={chosen === null ? natural : (chosenName ?? nameOf(chosen))}
      label={label}
      disabled={false}
    >
      {(close) => (
        <SearchList
          label={label}
          searchLabel={`Find: ${label.toLowerCase()}`}
          placeholder="Type to find"
          sections={['Follows by itself', 'Instead']}
          items={[
            { key: BY_ITSELF, name: natural, section: 'Follows by itself' },
            ...choices
              .filter(({ code }) => code !== following)
              .map(({ code, name }) => ({ key: code, name, section: 'Instead' })),
          ]}
          renderItem={({ name }) => <span className="flex-1">{name}</span>}
          choice={{
            selectionMode: 'single',
            onAction: (key) => {
              onPick(key === BY_ITSELF ? null : String(key))
              close()
            },
          }}
        />
      )}
    </WordPopover>
  )
}
