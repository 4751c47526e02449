import 'server-only'

import { type ChangeEffect, ChangeEffectTables } from '@/sheet/effect/change-effect'
import type { Mention } from '@/sheet/effect/mentions'
import { SideList, SideRow } from '@/sheet/parts/side-parts'
import { VantageLink } from '@/ui/frame/vantage-link'
import type { MoveEffect } from './load-move-effect'

/** What a move would change, beside the tree while it is weighed. */
export function MoveEffectParts({ effect }: { readonly effect: MoveEffect }) {
  const { name, from, to, refusal, prices, access, left, entered } = effect
  return (
    <>
      <h2 className="font-semibold">If {name} moves here</h2>
      <p className="pb-3 text-soft">
        {pathText([...from, name])} → <b className="text-base-content">{pathText([...to, name])}</b>
      </p>
      {refusal && (
        <p role="alert" className="text-error">
          {refusal}
        </p>
      )}
      {prices && (
        <section aria-label="Prices">
          <p className="pb-1 font-semibold">
            Prices{' '}
            <span className="font-normal text-soft" data-testid="moved-prices">
              {directionsText(prices)}
            </span>
          </p>
          {prices.farthest.length > 0 && <ChangeEffectTables effect={prices} isNarrow />}
        </section>
      )}
      {prices && (
        <SideList title="Access">
          {access.map(({ name: buyer, change }) => (
            <SideRow key={buyer} name={buyer} about={change} />
          ))}
          {access.length === 0 && <p className="text-soft">Everybody sees and may buy what they do now.</p>}
        </SideList>
      )}
      <RuleNames title="No longer reached by" rules={left} />
      <RuleNames title="Reached from then on by" rules={entered} />
    </>
  )
}

function RuleNames({ title, rules }: { readonly title: string; readonly rules: readonly Mention[] }) {
  const named = [...new Map(rules.map((rule) => [rule.href, rule])).values()]
  if (named.length === 0) return null
  return (
    <SideList title={title}>
      <p>
        {named.map(({ name, href }, at) => (
          <span key={href}>
            {at > 0 && ', '}
            <VantageLink href={href} className="link-name">
              {name}
            </VantageLink>
          </span>
        ))}
      </p>
    </SideList>
  )
}

function directionsText({ buyers, summary }: ChangeEffect): string {
  const count = (of: 'rise' | 'fall' | 'appear' | 'vanish') =>
    buyers.reduce((sum, { summary: moves }) => sum + moves[of], 0)
  const said = [
    [count('fall'), 'fall', 'falls'],
    [count('rise'), 'rise', 'rises'],
    [count('appear'), 'appear', 'appears'],
    [count('vanish'), 'are gone', 'is gone'],
  ] as const
  const parts = said.flatMap(([number, many, one]) =>
    number === 0 ? [] : [`${number} ${number === 1 ? one : many}`],
  )
  return parts.join(', ') || summary
}

function pathText(names: readonly string[]): string {
  return names.join(' › ')
}
