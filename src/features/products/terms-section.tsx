import { VantageLink } from '@/ui/frame/vantage-link'
import type { ProductSheetView } from './product-view'
import { recordHref } from '@/ui/frame/record-href'

/** Tax class, limits and access of each variant for whoever is looked as, and where each is set. */
export function TermsSection({ view }: { readonly view: ProductSheetView }) {
  return (
    <section className="px-6 pt-5" aria-label="Tax, limits and access">
      <h2 className="font-semibold">Tax, limits and access</h2>
      <p className="text-soft">
        For {view.buyerName}. All of it is set in the sentence above, or on each variant.
      </p>
      <table className="mt-1 w-full max-w-4xl">
        <thead>
          <tr className="border-b border-base-300 text-left text-soft">
            <th className="py-1 pr-4 font-normal">Variant</th>
            <th className="py-1 pr-4 font-normal">Tax class</th>
            <th className="py-1 pr-4 font-normal">Limits</th>
            <th className="py-1 font-normal">They</th>
          </tr>
        </thead>
        <tbody>
          {view.variants.map(({ sku, name, terms }) => (
            <tr key={sku} className="border-b border-dotted border-base-300">
              <th scope="row" className="py-1 pr-4 text-left font-normal">
                <VantageLink href={recordHref('variant-records', sku)} className="link-name">
                  {name || view.name}
                </VantageLink>{' '}
                <span className="text-2xs text-soft">{sku}</span>
              </th>
              <td className="py-1 pr-4">
                {terms.taxClass ? (
                  <span className={terms.taxClass.from === 'its own' ? 'font-semibold' : 'italic'}>
                    {terms.taxClass.name} <span className="text-soft">{terms.taxClass.from}</span>
                  </span>
                ) : (
                  <span className="text-soft">none</span>
                )}
              </td>
              <td className="py-1 pr-4">
                {terms.limits || <span className="text-soft">none</span>}{' '}
                {terms.limitsFrom && <span className="text-soft">by {terms.limitsFrom}</span>}
              </td>
              <td className="py-1">{terms.access}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
