import { VantageLink } from '@/ui/frame/vantage-link'
import type { ReactNode } from 'react'
import type { ClashView } from './load-clashes'

type Party = ClashView['first']

/** Which promotions can take the same units, by who is considered first. */
export function ClashesPage({
  clashes,
  tabs,
}: {
  readonly clashes: readonly ClashView[]
  readonly tabs: ReactNode
}) {
  return (
    <section className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-8" aria-label="Clashes">
      <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pb-2">
        <h1 className="text-xl leading-7 font-semibold">Promotions</h1>
        {tabs}
        <p className="w-full text-soft">
          Which promotions can take the same units. A unit belongs to the first that takes it: prices of items
          come before goods together, these before the whole order, and within each the lower priority number.
        </p>
      </header>
      {clashes.length === 0 && (
        <p className="text-soft">No two promotions that are on can take the same units.</p>
      )}
      <ClashTable
        title="One keeps the other off"
        clashes={clashes.filter(({ outcome }) => outcome !== 'both')}
      />
      <ClashTable
        title="Both, one after the other"
        clashes={clashes.filter(({ outcome }) => outcome === 'both')}
      />
    </section>
  )
}

function ClashTable({ title, clashes }: { readonly title: string; readonly clashes: readonly ClashView[] }) {
  if (clashes.length === 0) return null
  return (
    <>
      <h2 className="pt-3 font-semibold">{title}</h2>
      <table className="w-full table-fixed" aria-label={title}>
        <thead>
          <tr className="border-b border-base-content text-left text-soft">
            <th className="w-[27%] py-1 pr-4 font-normal">First</th>
            <th className="w-[27%] py-1 pr-4 font-normal">Then</th>
            <th className="w-[18%] py-1 pr-4 font-normal">On</th>
            <th className="py-1 font-normal">What happens</th>
          </tr>
        </thead>
        <tbody>
          {clashes.map((clash) => (
            <tr
              key={`${clash.first.href} ${clash.then.href}`}
              className="border-b border-base-300 align-baseline"
            >
              <td className="py-1.5 pr-4">
                <PartyCell party={clash.first} />
              </td>
              <td className="py-1.5 pr-4">
                <PartyCell party={clash.then} />
              </td>
              <td className="py-1.5 pr-4">
                {clash.count} {clash.count === 1 ? 'variant' : 'variants'}
                <span className="block truncate text-xs text-soft" title={clash.some}>
                  {clash.some}
                </span>
              </td>
              <td className="py-1.5">
                <Outcome clash={clash} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}

function PartyCell({ party: { name, href, rank, offer, about } }: { readonly party: Party }) {
  return (
    <>
      <span className="mr-2 inline-block w-6 text-right text-soft tabular-nums" title="Priority">
        {rank}
      </span>
      <VantageLink href={href} className="link-name">
        {name}
      </VantageLink>
      <span className="block pl-8 text-xs text-soft">{[offer, about].filter(Boolean).join(' · ')}</span>
    </>
  )
}

function Outcome({ clash: { outcome, first, then } }: { readonly clash: ClashView }) {
  switch (outcome) {
    case 'both':
      return <>{then.name} works on what is left to pay.</>
    case 'first':
      return (
        <>
          <b>{first.name}</b> takes them; {then.name} gets the units it leaves.
        </>
      )
    case 'saves-more':
      return (
        <span className="bg-warning px-1 text-warning-content">
          Same priority: whichever saves the buyer more takes them.
        </span>
      )
  }
}
