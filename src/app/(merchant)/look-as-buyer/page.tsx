import { merchantPage } from '@/server/session/permit'
import { ShopWindowLink } from '@/features/shop/entrance/shop-window-link'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Shop window' }

interface PageProps {
  readonly searchParams: Promise<Record<string, string>>
}

/** Opens the shop as whoever is looked as: asked first, because it signs them in. */
export default merchantPage('shop:look', async ({ searchParams }: PageProps) => {
  const { page = '/shop', ...fields } = await searchParams
  const { buyerName } = await lookFrom(parseVantage(new URLSearchParams(fields)))
  return (
    <section className="p-6">
      <h1 className="text-xl font-semibold">Shop window</h1>
      <p className="pt-2 pb-4">
        The shop as {buyerName} sees it, from the same place and in the same currency.
      </p>
      <ShopWindowLink
        page={page}
        autoFocus
        className="bg-primary px-4 py-2 font-semibold text-primary-content"
      >
        Open the shop as {buyerName}
      </ShopWindowLink>
    </section>
  )
})
