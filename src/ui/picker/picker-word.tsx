interface PickerWordProps {
  /** The word as it stands in the sentence. */
  readonly word: string
  /** What the word is, for people who cannot see the sentence. */
  readonly label: string
  readonly isOpen: boolean
  readonly disabled: boolean
  readonly onOpen: () => void
  /** A title is changed like a word, without looking like one. */
  readonly isTitle?: boolean
}

/** A word of a sentence whose picker unrolls under it. */
export function PickerWord({ word, label, isOpen, disabled, onOpen, isTitle = false }: PickerWordProps) {
  return (
    <button
      type="button"
      aria-expanded={isOpen}
      aria-label={`${label}: ${word}. Change`}
      disabled={disabled}
      className={`word text-left align-baseline !whitespace-normal disabled:border-transparent ${isTitle && !isOpen ? '!border-transparent hover:!border-primary' : 'leading-5'} ${
        isOpen ? 'rounded-t-[3px] border-b-2 !border-secondary bg-chosen px-1' : ''
      }`}
      onClick={onOpen}
    >
      {word}
    </button>
  )
}
