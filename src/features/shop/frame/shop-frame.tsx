import Link from 'next/link'
import type { shopColours } from '@/ui/theme/shop-colours'
import type { CSSProperties, ReactNode } from 'react'
import { leavePasscode, leaveShop } from '../entrance/shop-actions'
import { ShopSearch } from './shop-search'
import { PlaceChooser } from '../entrance/place-chooser'
import type { ShopCategoryLink, ShopChoices } from './shop-view'
import { recordHref } from '@/ui/frame/record-href'

interface ShopFrameProps {
  readonly storeName: string
  /** The merchant’s own colour; `null` for the usual one. */
  readonly colours: ReturnType<typeof shopColours>
  readonly visitor: { readonly name: string; readonly guest: boolean }
  /** The merchant's board, looking as this visitor. */
  /** Back to the board, for whoever of the merchant's looks; `null` for whoever buys. */
  readonly boardHref: string | null
  /** Name of the draft the shop is looked at through; `null` where it is what buyers see. */
  readonly draft: string | null
  /** What is amiss with the server. */
  readonly notice: ReactNode
  /** Whether the gate keeps the visitor out. */
  readonly isOutside: boolean
  /** How many orders of colleagues wait for the visitor to let them through. */
  readonly toApprove: number
  /** How many lines are in the cart. */
  readonly inCart: number
  /** What stands behind prices. */
  readonly taxWords: string
  /** Name of the passcode that is in use; `null` without one. */
  readonly passcode: string | null
  readonly categories: readonly ShopCategoryLink[]
  readonly currency: string
  readonly choices: ShopChoices
  readonly children: ReactNode
}

/** The shop around every page of it. */
export function ShopFrame({
  storeName,
  colours,
  visitor,
  boardHref,
  draft,
  notice,
  isOutside,
  toApprove,
  inCart,
  taxWords,
  passcode,
  categories,
  currency,
  choices,
  children,
}: ShopFrameProps) {
  return (
    <div
      className={`flex min-h-dvh flex-col text-sm leading-6 ${colours ? 'shop-coloured' : ''}`}
      style={
        colours
          ? ({
              '--shop-day': colours.day.primary,
              '--shop-on-day': colours.day.onPrimary,
              '--shop-night': colours.night.primary,
              '--shop-on-night': colours.night.onPrimary,
            } as CSSProperties)
          : undefined
      }
    >
      {boardHref !== null && (
        <aside
          aria-label="About this window"
          className="bg-base-content px-4 py-1 text-xs text-base-100 md:px-8"
        >
          {draft === null ? (
            <>
              This is the shop as <b>{visitor.name}</b> sees it.{' '}
            </>
          ) : (
            <>
              This is the shop as <b>{visitor.name}</b> would see it with draft <b>“{draft}”</b>. Nothing can
              be ordered here.{' '}
            </>
          )}{' '}
          <Link href={boardHref} className="underline underline-offset-2">
            Back to the board
          </Link>
        </aside>
      )}
      {notice}
      <header className="border-b border-base-300">
        <div className="mx-auto flex max-w-6xl flex-wrap items-center gap-x-6 gap-y-2 px-4 pt-4 pb-3 md:px-8">
          <Link href="/shop" className="text-xl leading-8 font-bold tracking-tight text-primary md:text-2xl">
            {storeName}
          </Link>
          {!isOutside && (
            <div className="max-md:order-last max-md:w-full md:ml-auto">
              <ShopSearch />
            </div>
          )}
          {!isOutside && (
            <Link href="/shop/quick" className="font-semibold hover:underline max-md:hidden">
              Quick order
            </Link>
          )}
          {!isOutside && !visitor.guest && (
            <Link href="/shop/lists" className="font-semibold hover:underline max-md:hidden">
              Lists
            </Link>
          )}
          {!isOutside && !visitor.guest && (
            <Link href="/shop/quotes" className="font-semibold hover:underline max-md:hidden">
              Quotes
            </Link>
          )}
          {!isOutside && (
            <Link href="/shop/cart" className="font-semibold hover:underline max-md:ml-auto">
              Cart{inCart > 0 && <span data-testid="in-cart"> ({inCart})</span>}
            </Link>
          )}
          {visitor.guest ? (
            <Link href="/shop/sign-in" className="btn btn-primary btn-sm">
              Sign in
            </Link>
          ) : (
            <form action={leaveShop} className="flex items-baseline gap-3">
              <Link href="/shop/account" className="font-semibold hover:underline">
                {visitor.name}
                {toApprove > 0 && <span className="text-warning-content"> ({toApprove} to approve)</span>}
              </Link>
              <button type="submit" className="text-soft underline underline-offset-2">
                Sign out
              </button>
            </form>
          )}
        </div>
        <nav aria-label="Departments" className="mx-auto max-w-6xl overflow-x-auto px-4 md:px-8">
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
      {passcode !== null && (
        <form
          action={leavePasscode}
          className="mx-auto flex w-full max-w-6xl flex-wrap items-baseline gap-x-3 px-4 pt-3 text-soft md:px-8"
        >
          <span>
            You are using the passcode for <b>{passcode}</b>.
          </span>
          <button type="submit" className="shop-link">
            Stop using it
          </button>
        </form>
      )}
      <main className="mx-auto w-full max-w-6xl flex-1 px-4 py-6 md:px-8 md:py-8">{children}</main>
      <footer className="border-t border-base-300 text-soft">
        <div className="mx-auto flex max-w-6xl flex-wrap items-baseline gap-x-6 gap-y-2 px-4 py-5 md:px-8">
          <span>
            Prices in {currency}, {taxWords}.
          </span>
          <PlaceChooser choices={choices} />
          <Link href="/shop/quick" className="underline underline-offset-2 md:hidden">
            Quick order
          </Link>
          {!visitor.guest && (
            <Link href="/shop/lists" className="underline underline-offset-2 md:hidden">
              Lists
            </Link>
          )}
          <Link
            href="/shop/quotes"
            className={`underline underline-offset-2 ${visitor.guest ? '' : 'md:hidden'}`}
          >
            Quotes
          </Link>
          <Link href="/shop/contact" className="underline underline-offset-2">
            Contact us
          </Link>
          <Link href="/shop/gate" className="underline underline-offset-2">
            Enter a passcode
          </Link>
        </div>
      </footer>
    </div>
  )
}
