import { isOutside } from '@/features/shop/enter'
import { GatePage } from '@/features/shop/gate-page'
import { getPrepared, getSteppe } from '@/server/engine/steppe'
import { shopVisitor } from '@/server/session/shop-session'

export default async function ShopGate({
  searchParams,
}: {
  readonly searchParams: Promise<{ tried?: string; wrong?: string }>
}) {
  const visitor = await shopVisitor(getPrepared(await getSteppe()))
  const { channel, passcode } = visitor.situation.terms
  const gate = channel?.gate === 'sign-in' || channel?.gate === 'passcode' ? channel.gate : null
  const { tried, wrong } = await searchParams
  const isWrong = wrong !== undefined || (passcode === null && tried !== undefined)
  return <GatePage gate={isOutside(visitor) ? gate : null} taken={passcode?.name ?? null} isWrong={isWrong} />
}
