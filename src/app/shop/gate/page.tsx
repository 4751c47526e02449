import { shopPage } from '@/server/session/permit'
import { isOutside } from '@/features/shop/entrance/enter'
import { GatePage } from '@/features/shop/entrance/gate-page'
import { insideShop } from '@/features/shop/entrance/inside-shop'
import { shopVisitor } from '@/server/session/shop-session'

export default shopPage(
  async ({
    searchParams,
  }: {
    readonly searchParams: Promise<{ wrong?: string; waits?: string; back?: string }>
  }) => {
    const visitor = await shopVisitor()
    const { channel } = visitor.pricingContext.terms
    const gate = channel?.gate === 'sign-in' || channel?.gate === 'passcode' ? channel.gate : null
    const { wrong, waits, back = '' } = await searchParams
    return (
      <GatePage
        gate={isOutside(visitor) ? gate : null}
        isWrong={wrong !== undefined}
        isToWait={waits !== undefined}
        back={insideShop(back)}
      />
    )
  },
)
