import Link from 'next/link'
import type { ShopAway } from '../frame/shop-view'

interface AwayPageProps extends ShopAway {
  /** The page that was wanted. */
  readonly back: string
}

/** Where a link to something a visitor is not shown leads: it says nothing of what is behind it. */
export function AwayPage({ message, landing, back }: AwayPageProps) {
  return (
    <div className="max-w-md">
      <h1 className="pb-2 text-3xl leading-9 font-bold tracking-tight">This page is not available to you</h1>
      <p className="pb-6 text-base">
        {message ||
          'It may be for other customers, or for another date. If you think you should see it, please ask us.'}
      </p>
      <p className="flex flex-wrap items-center gap-6">
        {landing === 'sign-in' && (
          <Link href={`/shop/sign-in?${new URLSearchParams({ back })}`} className="btn btn-primary">
            Sign in
          </Link>
        )}
        {landing === 'contact' && (
          <Link href="/shop/contact" className="btn btn-primary">
            Contact us
          </Link>
        )}
        <Link href="/shop" className="shop-link">
          Browse the shop
        </Link>
        {landing !== 'sign-in' && (
          <Link href={`/shop/sign-in?${new URLSearchParams({ back })}`} className="shop-link">
            Sign in
          </Link>
        )}
        {landing !== 'contact' && (
          <Link href="/shop/contact" className="shop-link">
            Contact us
          </Link>
        )}
      </p>
    </div>
  )
}
