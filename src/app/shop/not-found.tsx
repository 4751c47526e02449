import Link from 'next/link'

export default function ShopNotFound() {
  return (
    <div className="max-w-md">
      <h1 className="pb-2 text-3xl leading-9 font-bold tracking-tight">Page not found</h1>
      <p className="pb-6 text-base">
        The address may be mistyped, or the page is no longer there. It may also be for other customers: sign
        in to see what is open to you.
      </p>
      <p className="flex flex-wrap gap-6">
        <Link href="/shop" className="shop-link">
          Browse the shop
        </Link>
        <Link href="/shop/sign-in" className="shop-link">
          Sign in
        </Link>
        <Link href="/shop/contact" className="shop-link">
          Contact us
        </Link>
      </p>
    </div>
  )
}
