import type { AccessRule, Passcode } from '../../access/access'
import { type CompiledAssortment, compileAssortment } from '../../access/assortment'
import type { LimitRule } from '../../limits/limit'
import { ALWAYS, type CompiledSchedule, compileSchedule } from '../../predicates/when'
import { getSettings, type Store } from '../../store/store'
import { type CompiledTaxes, compileTaxes } from '../../tax/find-levies'

/** Everything beside prices that decides what a buyer may do: made ready for looking up. */
export interface CompiledTerms {
  readonly taxes: CompiledTaxes
  /** When any rate starts or ends. */
  readonly ratePeriods: readonly CompiledSchedule[]
  readonly rules: readonly { readonly rule: AccessRule; readonly schedule: CompiledSchedule }[]
  readonly limits: readonly { readonly rule: LimitRule; readonly schedule: CompiledSchedule }[]
  readonly passcodes: ReadonlyMap<string, { readonly passcode: Passcode; readonly period: CompiledSchedule }>
  readonly ofChannel: ReadonlyMap<string, CompiledAssortment>
  readonly ofContract: ReadonlyMap<string, CompiledAssortment>
}

export function compileTerms(store: Store): CompiledTerms {
  const { timeZone } = getSettings(store)
  const taxes = compileTaxes(store.tax, store['tax-rate'].values(), timeZone)
  const assortments = (records: Store['channel'] | Store['contract']) =>
    new Map(
      [...records.values()].flatMap(({ id, assortment }) =>
        assortment ? [[id, compileAssortment(assortment)] as const] : [],
      ),
    )
  const scheduled = <Rule extends AccessRule | LimitRule>(rules: ReadonlyMap<string, Rule>) =>
    [...rules.values()]
      .filter(({ state, status }) => state === 'on' && status === 'active')
      .map((rule) => ({ rule, schedule: compileSchedule(rule.schedule, timeZone) }))
  return {
    taxes,
    ratePeriods: [...taxes.ratesOf.values()]
      .flat()
      .filter(({ rate }) => rate.from !== null || rate.to !== null)
      .map(({ period }) => period),
    rules: scheduled(store['access-rule']),
    limits: scheduled(store.limit),
    passcodes: new Map(
      [...store.passcode.values()]
        .filter(({ status }) => status === 'active')
        .map((passcode) => [
          passcode.id,
          {
            passcode,
            period: compileSchedule({ ...ALWAYS, from: passcode.from, to: passcode.to }, timeZone),
          },
        ]),
    ),
    ofChannel: assortments(store.channel),
    ofContract: assortments(store.contract),
  }
}
