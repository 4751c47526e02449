import Link from 'next/link'
import type { ShopAway } from './shop-view'

/** Where a link to something a visitor is not shown leads: it says nothing of what is behind it. */
export function AwayPage({ message }: Pick<ShopAway, 'message'>) {
  return (
    <div className="max-w-md">
      <h1 className="pb-2 text-3xl leading-9 font-bold tracking-tight">This page is not open to you</h1>
      <p className="pb-6 text-base">
        {message || 'It may be for other buyers, or for another day. If you think it should be, ask us.'}
      </p>
      <p className="flex gap-6">
        <Link href="/shop" className="underline underline-offset-2">
          Look around
        </Link>
        <Link href="/shop/sign-in" className="underline underline-offset-2">
          Sign in
        </Link>
        <Link href="/shop/contact" className="underline underline-offset-2">
          How to reach us
        </Link>
      </p>
    </div>
  )
}
