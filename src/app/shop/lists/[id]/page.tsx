import { shopPage } from '@/server/session/permit'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { ListPage } from '@/features/shop/lists/list-page'
import { loadList } from '@/features/shop/lists/load-lists'
import { notFound } from 'next/navigation'

interface ShopListProps {
  readonly params: Promise<{ id: string }>
}

export default shopPage(async ({ params }: ShopListProps) => {
  const visitor = await enterShopPage()
  const { id } = await params
  const view = /^[0-9a-f-]{36}$/.test(id) ? await loadList(visitor, id) : null
  if (!view) notFound()
  return <ListPage view={view} />
})
