import type { Where } from '@/core/predicates/where'
import type { Sentence, SentenceWord } from '../sheet-view'

type Part = string | SentenceWord | Sentence | null | false

/** Where a long sentence begins a new line. */
export const PARAGRAPH = '\n'

/** A word that shows what its field says; `words` instead of that, where something else reads better. */
export function word(field: string, words = ''): SentenceWord {
  return { field, words }
}

/** Where a rule holds: "everywhere", or "in Web shop". */
export function placeWords({ place }: Readonly<Record<string, unknown>>): Sentence {
  const { include, exclude } = place as Where
  return include.length + exclude.length === 0
    ? [word('place', 'everywhere')]
    : include.length === 0
      ? [word('place')]
      : ['in ', word('place')]
}

/** A sentence with words in it that can be changed: say`For ${word('audience')} in ${word('place')}.` */
export function say(texts: TemplateStringsArray, ...parts: readonly Part[]): Sentence {
  return texts.flatMap((text, at): Sentence => {
    const part = parts[at]
    const own = text === '' ? [] : [text]
    if (!part) return own
    return typeof part === 'string' || 'field' in part ? [...own, part] : [...own, ...part]
  })
}

/** Every field a sentence has a word for. */
export function fieldsOf(sentence: Sentence): readonly string[] {
  return sentence.flatMap((part) => (typeof part === 'string' ? [] : [part.field]))
}
