import { shopPage } from '@/server/session/permit'
import { NO_ROOM } from '@/features/shop/frame/with-room'
import Link from 'next/link'

/** Where a buyer is led when nothing can be saved for the moment. */
export default shopPage(() => {
  return (
    <div className="max-w-md">
      <h1 className="pb-2 text-3xl leading-9 font-bold tracking-tight">Not just now</h1>
      <p className="pb-6 text-base">{NO_ROOM}</p>
      <Link href="/shop/cart" className="underline underline-offset-2">
        Back to the cart
      </Link>
    </div>
  )
})
