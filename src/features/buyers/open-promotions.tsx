import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { PricingContext } from '@/core/engine/context/pricing-context'
import { circumstancesAt, matchRule } from '@/core/rules/match-rule'
import { compareRules } from '@/core/rules/rule'
import { SideList, SideRow } from '@/sheet/parts/side-parts'
import { conditionsPhrase, promotionPhrase } from '@/ui/format/promotion-phrases'
import { whatSentence, whenSentence } from '@/ui/format/rule-phrases'
import { recordHref } from '@/ui/frame/record-href'

export interface OpenPromotion {
  readonly name: string
  readonly href: string
  readonly about: string
}

/** Promotions a buyer may have: first those that hold now, then those that are for another time to come. */
export function openPromotions(
  { store, terms }: PreparedStore,
  pricingContext: PricingContext,
  at: number,
): readonly OpenPromotion[] {
  const circumstances = circumstancesAt({ ...pricingContext, at })
  const stood = [...terms.promotions]
    .sort((one, other) => compareRules(one.rule, other.rule))
    .map(({ rule, schedule }) => ({ rule, verdict: matchRule(rule, schedule, circumstances) }))
  const now = stood.filter(({ verdict }) => verdict.holds)
  const later = stood.filter(
    ({ verdict }) =>
      !verdict.holds && verdict.because.code === 'not-now' && verdict.because.because !== 'over',
  )
  return [...now, ...later].map(({ rule, verdict }) => {
    const when = whenSentence(verdict.holds ? { ...rule.schedule, from: null } : rule.schedule)
    const onWhat = rule.scope.include.some(({ kind }) => kind === 'everything')
      ? ''
      : ` on ${whatSentence(rule.scope, store)}`
    const conditions = rule.conditions.length === 0 ? '' : `, ${conditionsPhrase(store, rule)}`
    return {
      name: rule.name,
      href: recordHref('promotions', rule.code),
      about: `${promotionPhrase(store, rule.value)}${onWhat}${conditions}${when === 'always' ? '' : `, ${when}`}`,
    }
  })
}

export function OpenPromotions({ promotions }: { readonly promotions: readonly OpenPromotion[] }) {
  return (
    <SideList title="Promotions open to them">
      {promotions.map(({ name, href, about }) => (
        <SideRow key={href} name={name} href={href} about={about} />
      ))}
      {promotions.length === 0 && <p className="text-soft">None.</p>}
    </SideList>
  )
}
