import { shopPage } from '@/server/session/permit'
import { AccountPage } from '@/features/shop/account/account-page'
import { loadShopAccount } from '@/features/shop/account/load-account'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { redirect } from 'next/navigation'

export default shopPage(async () => {
  const view = await loadShopAccount(await enterShopPage())
  // Who has no account sees what they ordered from this window.
  if (!view) redirect('/shop/orders')
  return <AccountPage view={view} />
})
