import { shopPage } from '@/server/session/permit'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { ListsPage } from '@/features/shop/lists/lists-page'
import { loadLists } from '@/features/shop/lists/load-lists'
import { redirect } from 'next/navigation'

export default shopPage(async () => {
  const view = await loadLists(await enterShopPage())
  if (!view) redirect('/shop/sign-in?back=/shop/lists')
  return <ListsPage view={view} />
})
