import { insideShop } from '@/features/shop/entrance/inside-shop'
import { loadAccounts } from '@/features/shop/entrance/load-accounts'
import { SignInPage } from '@/features/shop/entrance/sign-in-page'
import { getPrepared, getSteppe } from '@/server/engine/steppe'
import { shopVisitor } from '@/server/session/shop-session'

export default async function ShopSignIn({
  searchParams,
}: {
  readonly searchParams: Promise<{ back?: string }>
}) {
  const prepared = getPrepared(await getSteppe())
  const { as } = await shopVisitor(prepared)
  const { back = '' } = await searchParams
  return <SignInPage groups={loadAccounts(prepared.store)} current={as} back={insideShop(back)} />
}
