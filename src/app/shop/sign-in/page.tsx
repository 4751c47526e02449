import { shopPage } from '@/server/session/permit'
import { insideShop } from '@/features/shop/entrance/inside-shop'
import { loadAccounts } from '@/features/shop/entrance/load-accounts'
import { SignInPage } from '@/features/shop/entrance/sign-in-page'
import { shopView, shopVisitor } from '@/server/session/shop-session'

export default shopPage(async ({ searchParams }: { readonly searchParams: Promise<{ back?: string }> }) => {
  const prepared = (await shopView()).prepared
  const { as, person } = await shopVisitor()
  const { back = '' } = await searchParams
  return (
    <SignInPage
      groups={loadAccounts(prepared.store)}
      current={as}
      currentPerson={person?.email ?? ''}
      back={insideShop(back)}
    />
  )
})
