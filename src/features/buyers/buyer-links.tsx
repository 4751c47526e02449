import type { BuyerCode } from '@/core/buyers/buyer-code'
import { VantageLink } from '@/ui/frame/vantage-link'

/** From a buyer's sheet to what they pay: on the board, and as a price list to send. */
export function BuyerLinks({ as }: { readonly as: BuyerCode }) {
  return (
    <>
      <VantageLink href="/board" lookAs={as} className="link-name">
        What do they pay?
      </VantageLink>
      <a href={`/api/price-list?as=${encodeURIComponent(as)}`} target="_blank" className="link-name">
        Price list (PDF)
      </a>
    </>
  )
}
