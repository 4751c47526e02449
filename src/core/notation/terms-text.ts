import { findNearest } from '../issue/issue'
import { meansTheSame } from '../store/same-meaning'
import { isOneWord } from './named-text'
import type { ReadRule } from './read-rule'

interface Terms<Term> {
  readonly include: readonly Term[]
  readonly exclude: readonly Term[]
}

/** Words between commas, those behind "not" left out: "Frames, Jars, not FR-BR-PF". */
export function readTerms<Term>(
  text: string,
  read: (word: string) => Term | null,
  known: () => readonly string[],
): ReadRule<Terms<Term>> {
  const include: Term[] = []
  const exclude: Term[] = []
  for (const part of text.split(',').map((each) => each.trim())) {
    if (part === '') continue
    const isLeftOut = /^not\s+/i.test(part)
    const word = part.replace(/^not\s+/i, '')
    const term = read(word)
    if (term === null) {
      const nearest = findNearest(word, known())
      return {
        ok: false,
        problem: `There is no “${word}” here.${nearest ? ` Did you mean ${nearest}?` : ''}`,
      }
    }
    ;(isLeftOut ? exclude : include).push(term)
  }
  return { ok: true, value: { include, exclude } }
}

/** Each term by the first of its labels that means it and nothing else when it is read again. */
export function writeTerms<Term>(
  { include, exclude }: Terms<Term>,
  labels: (term: Term) => readonly string[],
  read: (word: string) => Term | null,
): string {
  const write = (term: Term) => {
    const all = labels(term)
    return all.find((label) => isOneWord(label) && meansTheSame(read(label), term)) ?? all.at(-1) ?? ''
  }
  return [...include.map(write), ...exclude.map((term) => `not ${write(term)}`)].join(', ')
}
