import type { Passcode } from '../../access/access'
import type { Account } from '../../buyers/buyer'
import { taxNumberCountry } from '../../buyers/tax-number'
import type { Channel, Place } from '../../places/place'
import type { PlaceFacts } from '../../predicates/where'
import type { BuyerFacts } from '../../predicates/who'
import { compileSchedule, ALWAYS } from '../../predicates/when'
import type { Contract } from '../../price/contract'
import { matchRule } from '../../rules/match-rule'
import type { CompiledRule, Rule } from '../../rules/rule'
import { getSettings } from '../../store/store'
import type { Clock } from '../context/clock'
import type { PreparedStore } from '../context/prepared-store'
import type { HeldRule, PricingContextTerms } from '../context/pricing-context-terms'

interface Asking {
  readonly buyer: BuyerFacts
  readonly place: PlaceFacts
  readonly channel: Channel | null
  readonly account: Account | null
  readonly passcode: Passcode | null
  readonly deliverTo: Place
  /** Where taxes are those of. */
  readonly taxPlace: Place
  readonly contracts: readonly Contract[]
  readonly clock: Clock
}

export function findTerms(prepared: PreparedStore, asking: Asking): PricingContextTerms {
  const { buyer, place, channel, account, passcode, deliverTo, taxPlace, contracts, clock } = asking
  const { terms } = prepared
  const circumstances = { buyer, place, when: clock.when }
  const held = <Kind extends Rule>(rules: readonly CompiledRule<Kind>[]): readonly HeldRule<Kind>[] =>
    rules.flatMap(({ rule, schedule }) => {
      const verdict = matchRule(rule, schedule, circumstances)
      return verdict.holds ? [{ rule, who: verdict.specificity }] : []
    })
  for (const period of terms.ratePeriods) clock.holds(period)
  return {
    channel,
    account,
    passcode,
    rules: held(terms.rules),
    limits: held(terms.limits),
    channelAssortment: channel ? (terms.ofChannel.get(channel.id) ?? null) : null,
    contractAssortments: contracts.flatMap(({ id }) => {
      const compiled = terms.ofContract.get(id)
      return compiled ? [{ contract: id, compiled }] : []
    }),
    taxPlace,
    untaxed: untaxedBy(prepared, account, deliverTo, clock),
    levies: new Map(),
  }
}

/** The passcode somebody came in with, where it is good here and now: one that is over opens nothing any more. */
export function findPasscode(
  { terms }: PreparedStore,
  id: string | null,
  channel: Channel | null,
  clock: Clock,
): Passcode | null {
  const given = id === null ? undefined : terms.passcodes.get(id)
  if (!given || (given.passcode.channel !== null && given.passcode.channel !== channel?.id)) return null
  return clock.holds(given.period) ? given.passcode : null
}

/** The place whose taxes count, as the store says. */
export function taxPlaceOf({ store }: PreparedStore, account: Account | null, deliverTo: Place): Place {
  const { taxPlace, country } = getSettings(store)
  if (taxPlace === 'store') return { country, state: '', postcode: '', city: '' }
  if (taxPlace === 'billing' && account)
    return {
      country: account.country,
      state: account.state,
      postcode: account.postcode,
      city: account.city,
    }
  return deliverTo
}

/**
 * Why nothing is charged, whatever the rates say.
 *
 * Source  Directive 2006/112/EC Art. 138 and 196 (from memory): a business with a tax number of another member country
 *         accounts for the tax itself on what is brought into another member country.
 */
function untaxedBy(
  { store }: PreparedStore,
  account: Account | null,
  deliverTo: Place,
  clock: Clock,
): PricingContextTerms['untaxed'] {
  if (!account) return null
  const { country, unionCountries, timeZone } = getSettings(store)
  if (account.exemption !== '') {
    const period = compileSchedule({ ...ALWAYS, to: account.exemptUntil }, timeZone)
    if (clock.holds(period)) return 'certificate'
  }
  const isElsewhere = (code: string | null) =>
    code !== null && code !== country && unionCountries.includes(code)
  const registeredIn = taxNumberCountry(account)
  return unionCountries.includes(country) && isElsewhere(registeredIn) && isElsewhere(deliverTo.country)
    ? 'reverse-charge'
    : null
}
