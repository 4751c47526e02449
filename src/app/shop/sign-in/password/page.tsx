import { ShopPasswordForm } from '@/features/shop/entrance/entrance-form'
import { shopPage } from '@/server/session/permit'

interface Props {
  readonly searchParams: Promise<{ readonly word?: string }>
}

export default shopPage(async ({ searchParams }: Props) => (
  <ShopPasswordForm word={String((await searchParams).word ?? '').slice(0, 100)} />
))
