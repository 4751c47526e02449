import Link from 'next/link'
import type { ReactNode } from 'react'
import { leaveShop } from './shop-actions'
import { ShopSearch } from './shop-search'
import { PlaceChooser } from './place-chooser'
import type { TaxDisplay } from '@/core/places/place'
import { DISPLAY_WORDS } from '@/ui/format/terms-phrases'
import type { ShopCategoryLink, ShopChoices } from './shop-view'
import { recordHref } from '@/ui/frame/record-href'

interface ShopFrameProps {
  readonly storeName: string
  readonly visitor: { readonly name: string; readonly guest: boolean }
  /** The merchant's board, looking as this visitor. */
  readonly boardHref: string
  /** Whether the gate keeps the visitor out. */
  readonly isOutside: boolean
  /** How many lines are in the cart. */
  readonly inCart: number
  readonly taxWords: TaxDisplay
  readonly categories: readonly ShopCategoryLink[]
  readonly currency: string
  readonly choices: ShopChoices
  readonly children: ReactNode
}

/** The shop around every page of it. */
export function ShopFrame({
  storeName,
  visitor,
  boardHref,
  isOutside,
  inCart,
  taxWords,
  categories,
  currency,
  choices,
  children,
}: ShopFrameProps) {
  return (
    <div className="flex min-h-dvh flex-col text-sm leading-6">
      <aside aria-label="About this window" className="bg-base-content px-8 py-1 text-xs text-base-100">
        This is the shop as <b>{visitor.name}</b> sees it.{' '}
        <Link href={boardHref} className="underline underline-offset-2">
          Back to the board
        </Link>
      </aside>
      <header className="border-b border-base-300">
        <div className="mx-auto flex max-w-6xl flex-wrap items-center gap-x-8 gap-y-2 px-8 pt-5 pb-3">
          <Link href="/shop" className="text-2xl leading-8 font-bold tracking-tight text-primary">
            {storeName}
          </Link>
          <div className="ml-auto">
            <PlaceChooser choices={choices} />
          </div>
          {!isOutside && <ShopSearch />}
          {!isOutside && (
            <Link href="/shop/cart" className="font-semibold hover:underline">
              Cart{inCart > 0 && <span data-testid="in-cart"> ({inCart})</span>}
            </Link>
          )}
          {visitor.guest ? (
            <Link href="/shop/sign-in" className="btn btn-primary btn-sm">
              Sign in
            </Link>
          ) : (
            <form action={leaveShop} className="flex items-baseline gap-3">
              <Link href="/shop/orders" className="font-semibold hover:underline">
                {visitor.name}
              </Link>
              <button type="submit" className="text-soft underline underline-offset-2">
                Sign out
              </button>
            </form>
          )}
        </div>
        <nav aria-label="Departments" className="mx-auto max-w-6xl overflow-x-auto px-8">
          <ul className="flex gap-[1.15rem] pb-2 whitespace-nowrap">
            {categories.map(({ code, name }) => (
              <li key={code}>
                <Link href={recordHref('shop/category', code)} className="hover:underline">
                  {name}
                </Link>
              </li>
            ))}
          </ul>
        </nav>
      </header>
      <main className="mx-auto w-full max-w-6xl flex-1 px-8 py-8">{children}</main>
      <footer className="border-t border-base-300 text-soft">
        <p className="mx-auto max-w-6xl px-8 py-5">
          Prices in {currency}, {DISPLAY_WORDS[taxWords]}. {storeName} is made up, and so is everything in its
          shop.{' '}
          <Link href="/shop/contact" className="underline underline-offset-2">
            How to reach us
          </Link>{' '}
          ·{' '}
          <Link href="/shop/gate" className="underline underline-offset-2">
            I have a passcode
          </Link>
        </p>
      </footer>
    </div>
  )
}
