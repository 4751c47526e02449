import type { AccessRule, Passcode } from '../../access/access'
import type { CompiledAssortment } from '../../access/assortment'
import type { Account } from '../../buyers/buyer'
import type { LimitRule } from '../../limits/limit'
import type { Channel, Place } from '../../places/place'
import type { FoundLevies } from '../../tax/find-levies'

/** A rule that is for this buyer, here and now, and how much its audience says. */
export interface HeldRule<Rule> {
  readonly rule: Rule
  readonly who: number
}

/** What stands between a buyer and what they want beside prices, resolved once for all items. */
export interface PricingContextTerms {
  readonly channel: Channel | null
  readonly account: Account | null
  /** The passcode they came in with, where it is good here and now. */
  readonly passcode: Passcode | null
  readonly rules: readonly HeldRule<AccessRule>[]
  readonly limits: readonly HeldRule<LimitRule>[]
  readonly channelAssortment: CompiledAssortment | null
  /** Of the contracts in force that have one; an item any of them holds is held. */
  readonly contractAssortments: readonly {
    readonly contract: string
    readonly compiled: CompiledAssortment
  }[]
  /** The place whose taxes count. */
  readonly taxPlace: Place
  /** Why no tax is charged; `null` where it is. */
  readonly untaxed: 'certificate' | 'reverse-charge' | null
  /** The levies by class, for goods and for delivery, made when first asked for. */
  readonly levies: Map<string, FoundLevies>
}
