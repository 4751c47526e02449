import { merchantPage } from '@/server/session/permit'
import { loadOrder } from '@/features/orders/load-order'
import { OrderSheet } from '@/features/orders/order-sheet'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'

interface OrderPageProps {
  readonly params: Promise<{ number: string }>
  readonly searchParams: Promise<Record<string, string>>
}

export async function generateMetadata({ params }: OrderPageProps): Promise<Metadata> {
  return { title: `Order ${(await params).number.slice(0, 9)}` }
}

export default merchantPage('orders:look', async ({ params, searchParams }: OrderPageProps) => {
  const { number } = await params
  const requestContext = await lookFrom(parseVantage(new URLSearchParams(await searchParams)))
  const view = /^\d{1,9}$/.test(number) ? await loadOrder(requestContext, Number(number)) : null
  if (!view) notFound()
  return <OrderSheet view={view} />
})
