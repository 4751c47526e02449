import { GATE_WORDS } from '@/ui/format/terms-phrases'
import { VantageLink } from '@/ui/frame/vantage-link'
import type { ReactNode } from 'react'
import type { AccessView } from './load-access'

type Cell = AccessView['rows'][number]['cells'][number]

/** Every branch against every kind of buyer: who sees, sees prices, buys, asks for quotes. */
export function AccessPage({ view, tabs }: { readonly view: AccessView; readonly tabs: ReactNode }) {
  return (
    <section className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-8" aria-label="Who sees what">
      <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pb-2">
        <h1 className="text-xl leading-7 font-semibold">Access</h1>
        {tabs}
        <p className="w-full text-soft">
          Variants of each branch, with the branches below: what each kind of buyer can do with them, from the
          vantage’s channel and place.
        </p>
      </header>
      {view.gates.length > 0 && (
        <p className="flex flex-wrap gap-x-5 pb-2">
          <span className="text-soft">Gates</span>
          {view.gates.map(({ code, name, gate }) => (
            <span key={code}>
              <VantageLink href={`/channels/${code}`} className="link-name">
                {name}
              </VantageLink>{' '}
              {GATE_WORDS[gate]}
            </span>
          ))}
        </p>
      )}
      <table className="w-full">
        <thead className="sticky top-0 bg-base-100">
          <tr className="border-b border-base-300 text-left">
            <th className="py-1 pr-3 font-semibold">Branch</th>
            {view.columns.map(({ as, name }) => (
              <th key={as} className="py-1 pr-3 font-semibold">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {view.rows.map(({ code, name, depth, cells }) => (
            <tr key={code} className="border-b border-dotted border-base-300">
              <th scope="row" className="py-1 pr-3 text-left font-normal">
                <span style={{ paddingLeft: `${depth * 1.25}rem` }}>
                  <VantageLink href={`/board?in=${code}`} className="link-name">
                    {name}
                  </VantageLink>
                </span>
              </th>
              {cells.map((cell, at) => (
                <td key={at} className="py-1 pr-3">
                  <Rights cell={cell} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

/** "buy" where all can do all; else each thing with how many. */
function Rights({ cell: { all, see, price, buy, quote } }: { readonly cell: Cell }) {
  if (all === 0) return <span className="text-soft">empty</span>
  if (buy === all) return <span className="text-soft">buy all {all}</span>
  if (see === 0) return <span className="bg-hatched px-1">hidden, all {all}</span>
  const parts = [
    see < all && `${see} of ${all} seen`,
    price < see && `${price} with price`,
    `${buy} to buy`,
    quote > 0 && `${quote} by quote`,
  ].filter(Boolean)
  return <b className="font-semibold">{parts.join(', ')}</b>
}
