import { writeUnnamed } from '@/core/notation/what-text'
import { type UnnamedTerm, type WhatTerm, whatTermKey } from '@/core/predicates/what'
import { unnamedPhrase } from '@/ui/format/rule-phrases'
import type { FoundItem, WhatChoice, WhatChoices, WhatMatched } from './what-choices'

/** What a term is called and how it is typed, of everything a picker has met. */
export type KnownTerms = ReadonlyMap<string, WhatChoice>

export function knownAtFirst({ branches, others, named }: WhatChoices): KnownTerms {
  return withKnown(new Map(), [...named, ...branches, ...others])
}

export function withKnown(known: KnownTerms, more: readonly WhatChoice[]): KnownTerms {
  return new Map([...known, ...more.map((choice) => [whatTermKey(choice.term), choice] as const)])
}

/** What can be chosen by now beside what is known at first: what was found, and the values of what is matched. */
export function atHand(found: readonly FoundItem[], matched: WhatMatched | null): readonly WhatChoice[] {
  return [...found, ...(matched?.attributes ?? []).flatMap(({ values }) => values)]
}

export function nameOfTerm(known: KnownTerms, term: WhatTerm): string {
  return isUnnamed(term) ? unnamedPhrase(term) : (known.get(whatTermKey(term))?.name ?? '')
}

export function textOfTerm(known: KnownTerms, term: WhatTerm): string {
  return isUnnamed(term) ? writeUnnamed(term) : (known.get(whatTermKey(term))?.text ?? '')
}

function isUnnamed(term: WhatTerm): term is UnnamedTerm {
  return term.kind === 'everything' || term.kind === 'price-range' || term.kind === 'stock'
}
