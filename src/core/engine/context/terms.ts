import type { AccessRule, Passcode } from '../../access/access'
import { type CompiledAssortment, compileAssortment } from '../../access/assortment'
import type { LimitRule } from '../../limits/limit'
import { ALWAYS, type CompiledSchedule, compileSchedule } from '../../predicates/when'
import type { Promotion } from '../../promotions/promotion'
import { type CompiledRule, compileRules } from '../../rules/rule'
import { getSettings, type Store } from '../../store/store'
import { type CompiledTaxes, compileTaxes } from '../../tax/find-levies'

/** Everything beside prices that decides what a buyer may do: made ready for looking up. */
export interface CompiledTerms {
  readonly taxes: CompiledTaxes
  /** When any rate starts or ends. */
  readonly ratePeriods: readonly CompiledSchedule[]
  readonly rules: readonly CompiledRule<AccessRule>[]
  readonly limits: readonly CompiledRule<LimitRule>[]
  readonly promotions: readonly CompiledRule<Promotion>[]
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
  return {
    taxes,
    ratePeriods: [...taxes.ratesOf.values()]
      .flat()
      .filter(({ rate }) => rate.from !== null || rate.to !== null)
      .map(({ period }) => period),
    rules: compileRules(store['access-rule'], timeZone),
    limits: compileRules(store.limit, timeZone),
    promotions: compileRules(store.promotion, timeZone),
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
