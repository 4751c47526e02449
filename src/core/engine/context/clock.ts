import { type RateTable, rateTable } from '../../currency/currency'
import {
  type CompiledSchedule,
  FOREVER,
  intersect,
  matchWhen,
  type Validity,
  validityAround,
  type WhenMatch,
} from '../../predicates/when'
import { type Contract, contractStanding } from '../../price/contract'
import type { Store } from '../../store/store'

/** An instant, and how long around it everything it was asked for stays as it is. */
export class Clock {
  validity: Validity = FOREVER

  constructor(readonly at: number) {}

  narrow(to: Validity): void {
    this.validity = intersect(this.validity, to)
  }

  holds(schedule: CompiledSchedule): boolean {
    return this.when(schedule).matches
  }

  readonly when = (schedule: CompiledSchedule): WhenMatch => {
    this.narrow(validityAround(schedule, this.at))
    return matchWhen(schedule, this.at)
  }

  stands(contract: Contract, period: CompiledSchedule): boolean {
    if (contract.state === 'active') this.narrow(validityAround(period, this.at))
    return contractStanding(contract, period, this.at) === 'in-force'
  }

  rates(store: Store): RateTable {
    const table = rateTable(store['exchange-rate'].values(), this.at)
    this.narrow(table)
    return table
  }
}
