'use client'

import type { CoverageView } from './price-list-view'

/** How much of the catalogue a list prices, and what of that it never decides. */
export function CoverageSection({
  coverage,
  isOn,
}: {
  readonly coverage: CoverageView
  readonly isOn: boolean
}) {
  const { of, priced, decided, kinds, never, branches } = coverage
  // Nearly all of it is not all of it.
  const share = (part: number, whole: number) => `${Math.floor((part / Math.max(1, whole)) * 100)} %`
  return (
    <section className="px-6 pt-4" aria-label="How much of the catalogue it prices">
      <h2 className="pb-1 text-xs font-semibold">How much of the catalogue</h2>
      <p className="max-w-4xl">
        It has a price for <b>{priced}</b> of {of} variants ({share(priced, of)}) and decides <b>{decided}</b>{' '}
        of them
        {kinds === 0
          ? ': nobody it is for buys here.'
          : ` for somebody among the ${kinds === 1 ? 'one kind' : `${kinds} kinds`} of buyers it is for.`}
        {!isOn && ' It is switched off, so it decides nothing now.'}
        {isOn && never.count > 0 && (
          <span className="text-accent">
            {' '}
            {never.count} it prices and never decides:{' '}
            {never.some.map(({ sku, instead }) => `${sku} (${instead})`).join(', ')}
            {never.count > never.some.length && ` and ${never.count - never.some.length} more`}.
          </span>
        )}
      </p>
      <table className="mt-2 w-full max-w-3xl">
        <thead>
          <tr className="border-b border-base-content/80 text-left">
            <th className="py-1">Branch</th>
            <th className="w-20 py-1 text-right">Variants</th>
            <th className="w-20 py-1 text-right">Priced</th>
            <th className="w-20 py-1 pr-4 text-right">Decides</th>
            <th className="w-56 py-1">
              <span className="sr-only">Share</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {branches.map((branch) => (
            <tr key={branch.id} className="border-b border-dotted border-base-300">
              <td className="py-0.5">{branch.name}</td>
              <td className="py-0.5 text-right text-soft">{branch.of}</td>
              <td className="py-0.5 text-right">{branch.priced}</td>
              <td className="py-0.5 pr-4 text-right">{branch.decided}</td>
              <td className="py-0.5">
                <svg aria-hidden viewBox="0 0 100 6" preserveAspectRatio="none" className="h-2 w-full">
                  <rect width="100" height="6" className="fill-base-200" />
                  <rect
                    width={(branch.priced / branch.of) * 100}
                    height="6"
                    className="fill-bar opacity-60"
                  />
                  <rect width={(branch.decided / branch.of) * 100} height="6" className="fill-bar" />
                </svg>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
