import { loadAccounts } from '@/features/shop/load-accounts'
import { SignInPage } from '@/features/shop/sign-in-page'
import { getPrepared, getSteppe } from '@/server/engine/steppe'
import { shopVisitor } from '@/server/session/shop-session'

export default async function ShopSignIn() {
  const prepared = getPrepared(await getSteppe())
  return <SignInPage groups={loadAccounts(prepared.store)} current={(await shopVisitor(prepared)).as} />
}
