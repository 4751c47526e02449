import type { BuyerCode } from '@/core/buyers/buyer-code'
import { VantageLink } from '@/ui/frame/vantage-link'

const FORMS = [
  ['PDF', null],
  ['XLSX', 'xlsx'],
  ['CSV', 'csv'],
] as const

/** From a buyer's sheet to what they pay: on the board, and as a price list to send. */
export function BuyerLinks({ as }: { readonly as: BuyerCode }) {
  return (
    <>
      <VantageLink href="/board" lookAs={as} className="link-name">
        What do they pay?
      </VantageLink>
      <span>
        <span className="text-soft">Price list:</span>
        {FORMS.map(([name, format]) => (
          <a
            key={name}
            href={`/api/price-list?${new URLSearchParams({ as, ...(format && { format }) })}`}
            target="_blank"
            aria-label={`Price list (${name})`}
            className="ml-1.5 link-name"
          >
            {name}
          </a>
        ))}
      </span>
    </>
  )
}
