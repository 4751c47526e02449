import { findNearest } from '../issue/issue'
import { meansTheSame } from '../store/same-meaning'
import { isOneWord } from './named-text'
import type { ReadRule } from './read-rule'

interface Terms<Term> {
  readonly include: readonly Term[]
  readonly exclude: readonly Term[]
}

/** The parts between commas; a comma between quotation marks parts nothing. */
function partsOf(text: string): readonly string[] {
  const parts: string[] = []
  let part = ''
  let isQuoted = false
  for (const sign of text) {
    if (sign === '"') isQuoted = !isQuoted
    if (sign === ',' && !isQuoted) {
      parts.push(part)
      part = ''
    } else part += sign
  }
  return [...parts, part].map((each) => each.trim()).filter(Boolean)
}

function unquoted(word: string): string {
  const isWhole = word.length > 1 && word.startsWith('"') && word.endsWith('"')
  return isWhole ? word.slice(1, -1).replace(/""/g, '"') : word
}

/**
 * Words between commas, those behind "not" left out: `Frames, Jars, not FR-BR-PF`. A word that has a comma in it, or begins
 * with "not", stands between quotation marks.
 */
export function readTerms<Term>(
  text: string,
  read: (word: string) => Term | null,
  known: () => readonly string[],
): ReadRule<Terms<Term>> {
  const include: Term[] = []
  const exclude: Term[] = []
  for (const part of partsOf(text)) {
    const isLeftOut = /^not\s+/i.test(part)
    const word = unquoted(part.replace(/^not\s+/i, ''))
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
    const best = all.find((label) => isOneWord(label) && meansTheSame(read(label), term)) ?? all.at(-1) ?? ''
    return isOneWord(best) ? best : `"${best.replace(/"/g, '""')}"`
  }
  return [...include.map(write), ...exclude.map((term) => `not ${write(term)}`)].join(', ')
}
