import type { WhoTerm } from '@/core/predicates/who'

/** Something a rule can be for, with what it is called and how it is typed. */
export interface WhoChoice {
  readonly term: WhoTerm
  readonly name: string
  /** Read again, it means this term and nothing else. */
  readonly text: string
}

interface GroupChoice extends WhoChoice {
  readonly id: string
  readonly isTrade: boolean
}

export interface AccountChoice extends WhoChoice {
  readonly id: string
  /** "Mullingar, Ireland" */
  readonly place: string
  /** Ids. */
  readonly groups: readonly string[]
  readonly tags: readonly string[]
  readonly emails: readonly string[]
}

/** Everybody a rule can name. */
export interface WhoChoices {
  readonly kinds: readonly WhoChoice[]
  readonly groups: readonly GroupChoice[]
  readonly accounts: readonly AccountChoice[]
  readonly tags: readonly WhoChoice[]
  readonly passcodes: readonly WhoChoice[]
}
