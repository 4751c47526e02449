import { merchantPage } from '@/server/session/permit'
import { loadOrderList, STATE_CHOICES } from '@/features/orders/load-order-list'
import { parseOrderFilter } from '@/features/orders/order-filter'
import { OrderListPage } from '@/features/orders/order-list-page'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Orders' }

export default merchantPage(
  'orders:look',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    const fields = await searchParams
    const requestContext = await lookFrom(parseVantage(new URLSearchParams(fields)))
    return (
      <OrderListPage
        view={await loadOrderList(requestContext, parseOrderFilter(fields))}
        states={STATE_CHOICES}
      />
    )
  },
)
