import { getSettings } from '@/core/store/store'
import { isOutside } from '@/features/shop/entrance/enter'
import { shopChoices, shopMoney, topCategories } from '@/features/shop/catalogue/load-shop'
import { ShopFrame } from '@/features/shop/frame/shop-frame'
import type { ShopMoney } from '@/features/shop/frame/shop-view'
import { freshSteppe, howFresh } from '@/server/changes/follow'
import { isDoorOpen } from '@/server/session/doer'
import { isLookedThrough, ownerOf, shopView, shopVisitor } from '@/server/session/shop-session'
import { readCart } from '@/server/shop/cart-store'
import { countRequests } from '@/server/shop/order-requests'
import { DatabaseNotice } from '@/ui/frame/database-notice'
import { withVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'
import { shopColours } from '@/ui/theme/shop-colours'
import { headers } from 'next/headers'
import { redirect } from 'next/navigation'
import type { ReactNode } from 'react'

export const metadata: Metadata = { title: { default: 'Shop', template: '%s · Shop' } }

const GONE =
  'Nothing can be ordered or saved just now, and your cart and orders cannot be shown. Prices are as they were last known.'

export default async function ShopLayout({ children }: { readonly children: ReactNode }) {
  const steppe = await freshSteppe()
  if (steppe.broken) redirect('/mend')
  if (!steppe.prepared) redirect('/set-up')
  const { prepared, draft } = await shopView()
  const visitor = await shopVisitor()
  const { name, as, vantage } = visitor
  const settings = getSettings(prepared.store)
  const { presence } = steppe
  const known = await howFresh()
  const none = () => 0
  const toApprove = visitor.person?.approves
    ? await presence.orKnown(() => countRequests(steppe, ownerOf(visitor).account ?? ''), none)
    : 0
  const inCart = await presence.orKnown(
    async () => (await readCart(steppe, prepared, visitor.cart)).length,
    none,
  )
  const isMerchants = isDoorOpen((await headers()).get('host')) || (await isLookedThrough())
  return (
    <ShopFrame
      storeName={settings.name}
      colours={shopColours(settings.shopColour)}
      visitor={{ name: as === 'guest' ? 'a guest' : name, guest: as === 'guest' }}
      boardHref={isMerchants ? withVantage('/board', { ...vantage, as }) : null}
      isOutside={isOutside(visitor)}
      draft={draft?.draft.name ?? null}
      notice={
        steppe.isShared && <DatabaseNotice key={known} isGone={known === 'without-database'} words={GONE} />
      }
      toApprove={toApprove}
      inCart={inCart}
      taxWords={shownTaxWords(shopMoney(visitor))}
      passcode={visitor.pricingContext.terms.passcode?.name ?? null}
      categories={topCategories(visitor)}
      currency={visitor.pricingContext.currency}
      choices={shopChoices(visitor)}
    >
      {children}
    </ShopFrame>
  )
}

function shownTaxWords({ display, words }: ShopMoney): string {
  return display === 'both' ? `${words.net} and ${words.gross}` : words[display]
}
