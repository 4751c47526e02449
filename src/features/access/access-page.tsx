import { GATE_WORDS } from '@/ui/format/terms-phrases'
import { VantageLink } from '@/ui/frame/vantage-link'
import type { ReactNode } from 'react'
import type { AccessView } from './load-access'
import { recordHref } from '@/ui/frame/record-href'

type Cell = AccessView['rows'][number]['cells'][number]

interface AccessPageProps {
  readonly view: AccessView
  /** Whether branches everybody may buy all of are shown too. */
  readonly isWhole: boolean
  readonly tabs: ReactNode
}

/** Every branch against every kind of buyer: who sees, sees prices, buys, asks for quotes. */
export function AccessPage({ view, isWhole, tabs }: AccessPageProps) {
  const kept = view.rows.filter(({ cells }) => cells.some(isKeptBack))
  const rows = isWhole || kept.length === 0 ? view.rows : kept
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
              <VantageLink href={recordHref('channels', code)} className="link-name">
                {name}
              </VantageLink>{' '}
              {GATE_WORDS[gate]}
            </span>
          ))}
        </p>
      )}
      <p className="flex flex-wrap gap-x-5 pb-2">
        <span className="text-soft">Branches</span>
        {kept.length === 0 ? (
          <span>Everybody may buy everything here.</span>
        ) : (
          [
            { name: `something is kept back in, ${kept.length}`, path: '/access', isShown: !isWhole },
            { name: `all ${view.rows.length}`, path: '/access?branches=all', isShown: isWhole },
          ].map(({ name, path, isShown }) => (
            <VantageLink
              key={path}
              href={path}
              aria-current={isShown ? 'true' : undefined}
              className={isShown ? 'border-b-2 border-primary font-semibold' : 'text-soft hover:underline'}
            >
              {name}
            </VantageLink>
          ))
        )}
      </p>
      <table className="w-full table-fixed">
        <thead className="sticky top-0 bg-base-100">
          <tr className="border-b border-base-300 text-left">
            <th className="w-56 py-1 pr-3 font-semibold">Branch</th>
            {view.columns.map(({ as, name }) => (
              <th key={as} className="py-1 pr-3 font-semibold">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ code, name, depth, cells }) => (
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

function isKeptBack({ all, buy }: Cell): boolean {
  return buy < all
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
  return (
    <b className="font-semibold">
      {parts.join(', ')}, of {all}
    </b>
  )
}
