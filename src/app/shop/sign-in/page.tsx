import { EntranceForm } from '@/features/shop/entrance/entrance-form'
import { insideShop } from '@/features/shop/entrance/inside-shop'
import { loadAccounts } from '@/features/shop/entrance/load-accounts'
import { SignInPage } from '@/features/shop/entrance/sign-in-page'
import { isDoorOpen } from '@/server/session/doer'
import { shopPage } from '@/server/session/permit'
import { shopView, shopVisitor } from '@/server/session/shop-session'
import { headers } from 'next/headers'

interface Props {
  readonly searchParams: Promise<{ readonly back?: string }>
}

/** In a demo whoever comes chooses who to be; else people sign in. */
export default shopPage(async ({ searchParams }: Props) => {
  const back = insideShop((await searchParams).back ?? '')
  if (!isDoorOpen((await headers()).get('host'))) return <EntranceForm back={back} />
  const { prepared } = await shopView()
  const { as, person } = await shopVisitor()
  return (
    <SignInPage
      groups={loadAccounts(prepared.store)}
      current={as}
      currentPerson={person?.email ?? ''}
      back={back}
    />
  )
})
