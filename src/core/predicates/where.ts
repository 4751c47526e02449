/** One part of where things are sold. Channels and regions are named by id, groups of channels by name. */
export type WhereTerm =
  | { readonly kind: 'channel'; readonly channel: string }
  | { readonly kind: 'channel-group'; readonly group: string }
  | { readonly kind: 'region'; readonly region: string }

/**
 * A place: one of the channels and one of the regions named, each only where any is named, and none of
 * `exclude`. An empty place is everywhere.
 */
export interface Where {
  readonly include: readonly WhereTerm[]
  readonly exclude: readonly WhereTerm[]
}

/** A text that is the same for the same term. */
export function whereTermKey(term: WhereTerm): string {
  switch (term.kind) {
    case 'channel':
      return `channel/${term.channel}`
    case 'channel-group':
      return `channel-group/${term.group}`
    case 'region':
      return `region/${term.region}`
  }
}

export const EVERYWHERE: Where = { include: [], exclude: [] }

/** What a predicate needs to know about where a question is asked. */
export interface PlaceFacts {
  /** Id; empty where the store has no channels. */
  readonly channel: string
  readonly channelGroups: readonly string[]
  /** Ids of all regions that hold the delivery place. */
  readonly regions: readonly string[]
}

export type WhereMatch =
  | { readonly matches: true; readonly by: readonly WhereTerm[]; readonly specificity: number }
  | { readonly matches: false; readonly because: 'other-channel' | 'other-region' }
  | { readonly matches: false; readonly because: 'excluded'; readonly by: WhereTerm }

/** A region says more than a channel, a channel more than its group; both together more than either. */
const SPECIFICITY: Readonly<Record<WhereTerm['kind'], number>> = { 'channel-group': 1, channel: 2, region: 3 }

/** Whether a place holds, through which of its terms, or why not. */
export function matchWhere(where: Where, place: PlaceFacts): WhereMatch {
  const excluded = where.exclude.find((term) => holds(term, place))
  if (excluded) return { matches: false, because: 'excluded', by: excluded }
  const by: WhereTerm[] = []
  for (const isRegion of [false, true]) {
    const terms = where.include.filter((term) => (term.kind === 'region') === isRegion)
    const held = terms
      .filter((term) => holds(term, place))
      .sort((left, right) => SPECIFICITY[right.kind] - SPECIFICITY[left.kind])[0]
    if (held) by.push(held)
    else if (terms.length > 0) return { matches: false, because: isRegion ? 'other-region' : 'other-channel' }
  }
  return { matches: true, by, specificity: by.reduce((sum, { kind }) => sum + SPECIFICITY[kind], 0) }
}

/** How many of these places the predicate holds. */
export function countWhere(where: Where, places: Iterable<PlaceFacts>): number {
  let count = 0
  for (const place of places) if (matchWhere(where, place).matches) count += 1
  return count
}

function holds(term: WhereTerm, place: PlaceFacts): boolean {
  switch (term.kind) {
    case 'channel':
      return place.channel === term.channel
    case 'channel-group':
      return place.channelGroups.includes(term.group)
    case 'region':
      return place.regions.includes(term.region)
  }
}
