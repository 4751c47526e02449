/** A rule's terms: what is taken in, and what of it is left out. */
export interface TermSets<Term> {
  readonly include: readonly Term[]
  readonly exclude: readonly Term[]
}

/** What clicks and keys do to the terms of a rule; `keyOf` tells whether two terms say the same. */
export function termMoves<Term>(keyOf: (term: Term) => string) {
  const has = (terms: readonly Term[], term: Term) => terms.some((each) => keyOf(each) === keyOf(term))
  const without = (terms: readonly Term[], term: Term) => terms.filter((each) => keyOf(each) !== keyOf(term))
  return {
    has,
    /** Takes a term in, or out again where it was chosen itself. */
    takeIn: ({ include, exclude }: TermSets<Term>, term: Term): TermSets<Term> =>
      has(include, term)
        ? { include: without(include, term), exclude }
        : { include: [...include, term], exclude: without(exclude, term) },
    /** Leaves a term out, or no longer. */
    leaveOut: ({ include, exclude }: TermSets<Term>, term: Term): TermSets<Term> => ({
      include: without(include, term),
      exclude: has(exclude, term) ? without(exclude, term) : [...exclude, term],
    }),
  }
}

/** Without its last word: what is left out stands behind what is taken in. */
export function withoutLast<Term>({ include, exclude }: TermSets<Term>): TermSets<Term> {
  return exclude.length > 0
    ? { include, exclude: exclude.slice(0, -1) }
    : { include: include.slice(0, -1), exclude }
}
