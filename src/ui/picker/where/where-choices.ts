import type { WhereTerm } from '@/core/predicates/where'

/** A channel, a group of channels or a region a rule can be for. */
export interface WhereChoice {
  readonly term: WhereTerm
  readonly name: string
  /** Read again, it means this term and nothing else. */
  readonly text: string
  /** Of a region its countries, of a group its channels. */
  readonly about: string
}

export interface WhereChoices {
  readonly channels: readonly WhereChoice[]
  readonly channelGroups: readonly WhereChoice[]
  readonly regions: readonly WhereChoice[]
}
