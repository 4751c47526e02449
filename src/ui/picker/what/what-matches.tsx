import { Heading } from '../panel/picker-parts'
import type { WhatMatched } from './what-choices'

/** What a scope comes to, as the foot of its picker says it: "27 variants of 10 products". */
export function countText({ variants, products, extras }: WhatMatched): string {
  const of = (count: number, one: string) => `${count} ${count === 1 ? one : `${one}s`}`
  if (variants === 0 && extras === 0) return 'Nothing yet'
  return [`${of(variants, 'variant')} of ${of(products, 'product')}`, extras > 0 ? of(extras, 'extra') : '']
    .filter(Boolean)
    .join(' and ')
}

/** The products a scope matches, those that leave least first. */
export function Matches({ matched }: { readonly matched: WhatMatched | null }) {
  return (
    <>
      <Heading>What it matches, lowest margin first</Heading>
      {matched && matched.rows.length > 0 && (
        <table className="w-full">
          <thead>
            <tr className="border-b border-base-content text-left">
              <th className="py-0.5 font-semibold">Product</th>
              <th className="py-0.5 text-right font-semibold">Base</th>
              <th className="py-0.5 text-right font-semibold">Margin</th>
            </tr>
          </thead>
          <tbody>
            {matched.rows.map(({ name, variants, base, margin }) => (
              <tr key={name} className="border-b border-base-300 align-baseline">
                <td className="py-0.5">
                  {name} <span className="text-xs text-soft">{variants}</span>
                </td>
                <td className="py-0.5 pl-2 text-right whitespace-nowrap tabular-nums">{base || '–'}</td>
                <td className="py-0.5 pl-2 text-right whitespace-nowrap tabular-nums">{margin || '–'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {matched && matched.products > matched.rows.length && (
        <p className="pt-1 text-soft">{matched.products - matched.rows.length} more products</p>
      )}
      {matched?.variants === 0 && <p className="text-soft">Nothing yet.</p>}
    </>
  )
}
