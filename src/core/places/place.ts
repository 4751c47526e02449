import type { Gate } from '../access/access'
import type { Assortment } from '../access/assortment'
import type { RoundingRule } from '../decimal/rounding'
import type { Status } from '../issue/issue'
import type { PlaceFacts } from '../predicates/where'

/** A shop front or another way to sell. */
export interface Channel {
  readonly id: string
  readonly code: string
  readonly name: string
  /** Names of the groups it belongs to: "Online", "Counter". */
  readonly groups: readonly string[]
  readonly gate: Gate
  /** What it sells; `null` is everything. */
  readonly assortment: Assortment | null
  readonly position: number
  readonly status: Status
}

/** Whether prices show without tax, with it, or both. */
export type TaxDisplay = 'net' | 'gross' | 'both'

/** Countries that are sold to alike. */
export interface Region {
  readonly id: string
  readonly code: string
  readonly name: string
  /** ISO 3166-1 alpha-2 (`IE`), or with a state, ISO 3166-2 (`US-CA`). */
  readonly countries: readonly string[]
  /** ISO 4217; `null` leaves it to the store's. */
  readonly currency: string | null
  /** How prices converted to its currency are rounded, instead of the currency's own rule. */
  readonly rounding: RoundingRule | null
  /** How its shop shows prices, and its cart. */
  readonly taxDisplay: TaxDisplay
  readonly cartTaxDisplay: TaxDisplay
  /** Whether it stands for places no region names. */
  readonly isDefault: boolean
  readonly position: number
  readonly status: Status
}

/** Where something is delivered. */
export interface Place {
  /** ISO 3166-1 alpha-2. */
  readonly country: string
  readonly state: string
  readonly postcode: string
  readonly city: string
}

/** The channel a question is asked in when none is named: the first one. */
export function findDefaultChannel(channels: ReadonlyMap<string, Channel>): Channel | null {
  let first: Channel | null = null
  for (const channel of channels.values()) {
    if (channel.status === 'active' && (first === null || channel.position < first.position)) first = channel
  }
  return first
}

/** All regions that hold a place, the one its prices follow first: a state says more than a country. */
export function regionsOf(regions: ReadonlyMap<string, Region>, place: Place): readonly Region[] {
  const named = (region: Region): number =>
    region.countries.includes(`${place.country}-${place.state}`)
      ? 2
      : region.countries.includes(place.country)
        ? 1
        : 0
  const active = [...regions.values()].filter(({ status }) => status === 'active')
  const holding = active
    .filter((region) => named(region) > 0)
    .sort((left, right) => named(right) - named(left) || left.position - right.position)
  return holding.length > 0 ? holding : active.filter(({ isDefault }) => isDefault).slice(0, 1)
}

export function placeFacts(channel: Channel | null, regions: readonly Region[]): PlaceFacts {
  return {
    channel: channel?.id ?? '',
    channelGroups: channel?.groups ?? [],
    regions: regions.map(({ id }) => id),
  }
}
