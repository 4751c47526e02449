import { shopPage } from '@/server/session/permit'
import { loadRequest } from '@/features/shop/account/load-request'
import { RequestPage } from '@/features/shop/account/request-page'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { notFound } from 'next/navigation'

interface ShopRequestProps {
  readonly params: Promise<{ id: string }>
  readonly searchParams: Promise<{ asked?: string }>
}

export default shopPage(async ({ params, searchParams }: ShopRequestProps) => {
  const visitor = await enterShopPage()
  const { id } = await params
  const view = /^\d{1,12}$/.test(id) ? await loadRequest(visitor, Number(id)) : null
  if (!view) notFound()
  return <RequestPage view={view} isNew={(await searchParams).asked === '1'} />
})
