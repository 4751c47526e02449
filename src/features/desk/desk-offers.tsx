'use client'

import { compare, negate, ZERO } from '@/core/decimal/decimal'
import { formatAmount } from '@/ui/format/amount'
import { VantageLink } from '@/ui/frame/vantage-link'
import type { DeskFigures } from './desk-view'
import type { Desk } from './use-desk'

/** Promotions of the order: those that hold anyway, and those that are taken or left. */
export function DeskOffers({ desk, figures }: { readonly desk: Desk; readonly figures: DeskFigures }) {
  const { offers, digits } = figures
  if (offers.length === 0) return null
  const choose = (code: string, choice: 'taken' | 'left') =>
    desk.change({ choices: { ...desk.typed.choices, [code]: choice } })
  return (
    <section className="pt-5" aria-label="Promotions for this order">
      <h2 className="border-b border-base-content pb-1 font-semibold">Promotions for this order</h2>
      <ul>
        {offers.map(({ code, name, href, about, saves, choice }, at) => (
          <li key={code} className="flex items-center gap-3 border-b border-dotted border-base-300 py-1">
            <span className="w-14 shrink-0">
              {choice !== 'always' && <kbd className="kbd kbd-xs">Alt {at + 1}</kbd>}
            </span>
            <span className="min-w-0 flex-1">
              <VantageLink href={href} className="link-name" tabIndex={-1}>
                {name}
              </VantageLink>{' '}
              <span className="text-soft">{about}</span>
            </span>
            <span className="tabular-nums">
              {compare(saves, ZERO) === 0 ? '' : formatAmount(negate(saves), digits)}
            </span>
            {choice === 'always' ? (
              <span className="w-40 text-right text-xs text-soft">holds by itself</span>
            ) : (
              <span className="join w-40 shrink-0" role="group" aria-label={name}>
                {(['taken', 'left'] as const).map((each) => (
                  <button
                    key={each}
                    type="button"
                    tabIndex={-1}
                    aria-pressed={choice === each}
                    className={`btn join-item w-1/2 btn-xs ${choice === each ? (each === 'taken' ? 'btn-primary' : 'btn-neutral') : ''}`}
                    onClick={() => choose(code, each)}
                  >
                    {each === 'taken' ? 'Take' : 'Leave'}
                  </button>
                ))}
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}
