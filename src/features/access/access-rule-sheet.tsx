import 'server-only'

import type { AccessEffect, Landing } from '@/core/access/access'
import { MentionList } from '@/sheet/parts/mention-list'
import { SideList } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { VantageLink } from '@/ui/frame/vantage-link'
import { accessRuleDetails, accessRuleSentence } from './access-sentences'
import { type AccessRuleView, loadAccessRule } from './load-access-rule'

export const accessRuleSheet: SheetOfKind = {
  sentence: accessRuleSentence,
  details: accessRuleDetails,
  about: (record) => `switched ${String(record['state'])}`,
  effect: drawAccessRule,
}

const STEPS: readonly { readonly effect: AccessEffect; readonly name: string; readonly about: string }[] = [
  { effect: 'show', name: 'Show and sell', about: 'see it, its price, buy it' },
  { effect: 'buy-or-quote', name: 'Sell or quote', about: 'buy it, or ask for a quote' },
  { effect: 'no-buying', name: 'Cannot buy', about: 'see it and its price' },
  { effect: 'quote', name: 'Quote only', about: 'see it, ask for a quote' },
  { effect: 'no-price', name: 'Hide price', about: 'see it' },
  { effect: 'hide', name: 'Hide', about: 'as if it were not there' },
]

async function drawAccessRule(loaded: LoadedSheet): Promise<SheetEffect> {
  const view = await loadAccessRule(loaded)
  const effect = loaded.record['effect'] as AccessEffect
  const saved = (loaded.stored?.['effect'] ?? null) as AccessEffect | null
  const scale = <Scale effect={effect} saved={saved} />
  if (!view)
    return {
      main: (
        <>
          {scale}
          <p className="py-4 text-soft">
            Name it, and say whom and what it is for: what it changes stands here.
          </p>
        </>
      ),
      side: null,
    }
  return {
    main: (
      <>
        {scale}
        <Branches view={view} />
        <Products view={view} />
      </>
    ),
    side: (
      <Side
        view={view}
        landing={loaded.record['landing'] as Landing}
        message={String(loaded.record['message'] ?? '')}
      />
    ),
    summary: `${view.changed} variants change for ${view.buyer}`,
  }
}

/** The five effects on a line, the one the rule has, and the one that is saved. */
function Scale({ effect, saved }: { readonly effect: AccessEffect; readonly saved: AccessEffect | null }) {
  return (
    <ol className="grid grid-cols-5 pb-5" aria-label="Effects, the strictest last">
      {STEPS.map(({ effect: step, name, about }, at) => (
        <li key={step} aria-current={step === effect ? 'step' : undefined}>
          <span className="flex items-center" aria-hidden>
            <span
              className={`h-3.5 w-3.5 rounded-full border-2 ${
                step === effect
                  ? 'border-primary bg-primary'
                  : step === saved
                    ? 'border-primary'
                    : 'border-base-content/40'
              }`}
            />
            {at < STEPS.length - 1 && <span className="h-0.5 grow bg-base-300" />}
          </span>
          <span className={step === effect ? 'font-semibold' : ''}>{name}</span>
          <span className="block text-xs text-soft">{about}</span>
        </li>
      ))}
    </ol>
  )
}

const MEASURED = {
  see: 'see',
  seePrice: 'see the price of',
  buy: 'can buy',
  quote: 'can ask for a quote on',
} as const

function Branches({ view }: { readonly view: AccessRuleView }) {
  const { branches, sides, buyer } = view
  return (
    <table className="w-full text-right">
      <thead>
        <tr className="border-b border-base-content">
          <th className="py-1 text-left font-semibold">
            What {lower(buyer)} {MEASURED[view.measure]}, by branch
          </th>
          <th className="w-16 font-semibold">Of</th>
          <th className="w-24 font-semibold">{sides[0]}</th>
          <th className="w-24 font-semibold">{sides[1]}</th>
          <th className="w-56">
            <span className="sr-only">Drawn</span>
          </th>
          <th className="w-28">
            <span className="sr-only">Difference</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {branches.map(({ code, name, depth, all, before, after }) => (
          <tr
            key={code || 'all'}
            className={`border-b border-base-300 ${after === 0 && before > 0 ? 'bg-warning' : ''}`}
          >
            <td className="py-1 text-left" style={{ paddingLeft: `${depth * 1.25}rem` }}>
              {name}
            </td>
            <td className="text-soft">{all}</td>
            <td className="text-soft">{before}</td>
            <td className="font-semibold">{after}</td>
            <td className="pl-4">
              <span className="flex h-2" aria-hidden>
                <span className="bg-bar" style={{ width: `${(Math.min(before, after) / all) * 100}%` }} />
                {after !== before && (
                  <span
                    className={after > before ? 'bg-primary' : 'border border-base-300 bg-hatched'}
                    style={{ width: `${(Math.abs(after - before) / all) * 100}%` }}
                  />
                )}
              </span>
            </td>
            <td className="pl-3 text-left">
              {after === before ? (
                <span className="text-soft">as many</span>
              ) : after === 0 ? (
                <b>{view.measure === 'see' ? 'all hidden' : 'none'}</b>
              ) : (
                `${Math.abs(after - before)} ${after < before ? 'fewer' : 'more'}`
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function Products({ view }: { readonly view: AccessRuleView }) {
  const { products, sides, reached, buyer } = view
  if (products.length === 0)
    return <p className="py-4">It is for nothing that is sold: look at what it is for.</p>
  return (
    <table className="mt-5 w-full">
      <thead>
        <tr className="border-b border-base-content text-left">
          <th className="py-1 font-semibold">The {reached} variants</th>
          <th className="w-44 font-semibold">
            {buyer}, {sides[0].toLowerCase()}
          </th>
          <th className="w-44 font-semibold">{sides[1]}</th>
        </tr>
      </thead>
      <tbody>
        {products.map(({ name, href, variants, before, after }) => (
          <tr key={href} className="border-b border-base-300">
            <td className="py-1">
              <VantageLink href={href} className="hover:underline">
                {name}
              </VantageLink>{' '}
              <span className="text-xs text-soft">{variants}</span>
            </td>
            <td className="text-soft">{before}</td>
            <td className={before === after ? 'text-soft' : 'font-semibold text-accent'}>{after}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

interface SideProps {
  readonly view: AccessRuleView
  readonly landing: Landing
  readonly message: string
}

function Side({ view, landing, message }: SideProps) {
  const { buyers, sides, page, others, storeName } = view
  return (
    <>
      <SideList title="Who is kept from what">
        <table className="w-full">
          <thead>
            <tr className="border-b border-base-content text-left text-xs">
              <th className="py-1 font-semibold">Buyers</th>
              <th className="font-semibold">{sides[0]}</th>
              <th className="font-semibold">{sides[1]}</th>
            </tr>
          </thead>
          <tbody>
            {buyers.map(({ name, before, after, isChanged }) => (
              <tr key={name} className={`border-b border-base-300 ${isChanged ? 'bg-warning' : ''}`}>
                <td className="py-1 pr-2">{name}</td>
                <td className="pr-2 text-soft">{before}</td>
                <td className={isChanged ? 'font-semibold' : 'text-soft'}>{isChanged ? after : 'same'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </SideList>
      {page !== null && (
        <SideList title="What a direct link shows" about={`/shop/product/${page}`}>
          <div className="border border-base-300 bg-base-100">
            <p className="border-b border-base-300 px-3 py-2 text-xs font-bold text-primary">{storeName}</p>
            <div className="px-3 py-4 text-center">
              <p className="font-semibold">
                {landing === 'sign-in'
                  ? 'Sign in to see this page'
                  : landing === 'contact'
                    ? 'Contact us'
                    : 'This page is not available to you'}
              </p>
              <p className="pt-1 text-xs text-soft">{message || 'In the shop’s own words.'}</p>
            </div>
          </div>
          <p className="pt-2">
            <VantageLink
              href={`/look-as-buyer?page=/shop/product/${page}`}
              lookAs="guest"
              className="link-name"
            >
              Open it as a guest
            </VantageLink>
          </p>
        </SideList>
      )}
      <MentionList title="Other rules for the same items" mentions={others} none="None." />
    </>
  )
}

function lower(name: string): string {
  return name === 'Guests' ? 'guests' : name
}
