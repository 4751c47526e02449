import type { Decimal } from '@/core/decimal/decimal'
import { formatAmount } from '@/ui/format/amount'
import { ProductPicture } from '@/ui/format/product-picture'
import { recordHref } from '@/ui/frame/record-href'
import { IconX } from '@tabler/icons-react'
import Link from 'next/link'
import { changeLine, emptyCart } from './cart-actions'
import { CartPromotions } from './cart-promotions-part'
import { Sums } from './cart-sums'
import { CartLineQuantity } from './cart-line-quantity'
import type { CartProblemView } from '@/ui/cart/cart-says'
import { beginList } from '../lists/list-actions'
import type { CartLineView, CartView } from './cart-view'

interface CartPageProps {
  readonly view: CartView
  /** What went wrong with what was just done; empty otherwise. */
  readonly notice: string
}

/** What is in the cart, what stands in the way of ordering it, and what it comes to. */
export function CartPage({ view, notice }: CartPageProps) {
  const { lines, problems, currency, display } = view
  const hasPublic = lines.some(({ was }) => was !== null)
  return (
    <>
      <header className="flex flex-wrap items-baseline gap-x-5 pb-3">
        <h1 className="text-3xl leading-9 font-bold tracking-tight">Cart</h1>
        {lines.length > 0 && (
          <p className="text-base text-soft">
            {lines.length === 1 ? '1 item' : `${lines.length} items`}. Your prices in {currency},{' '}
            {view.words[display === 'gross' ? 'gross' : 'net']}
            {hasPublic && '; public prices struck through'}.
          </p>
        )}
      </header>
      {notice && (
        <p role="alert" className="pb-4 text-error">
          {notice}
        </p>
      )}
      {lines.length === 0 ? (
        <p className="text-base">
          Your cart is empty. Browse the shop, or{' '}
          <Link href="/shop/quick" className="underline underline-offset-2">
            order by SKU
          </Link>
          .
        </p>
      ) : (
        <div className="grid gap-x-12 gap-y-8 lg:grid-cols-[1fr_19.25rem]">
          <div>
            <CartLines view={view} />
            <CartPromotions view={view} />
            <div className="flex flex-wrap gap-x-6 gap-y-2 pt-5">
              <Link href="/shop/quick" className="shop-link">
                Add by SKU
              </Link>
              {view.mayAsk && (
                <Link href="/shop/quotes/new?from=cart" className="shop-link">
                  Ask for a quote on this
                </Link>
              )}
              {view.mayKeep && (
                <form action={beginList}>
                  <input type="hidden" name="from" value="cart" />
                  <input type="hidden" name="name" value="From a cart" />
                  <button type="submit" className="shop-link">
                    Keep it as a list
                  </button>
                </form>
              )}
              <Link href="/shop/gate?back=/shop/cart" className="shop-link">
                Enter a passcode
              </Link>
              <form action={emptyCart}>
                <button type="submit" className="shop-link">
                  Empty the cart
                </button>
              </form>
            </div>
          </div>
          <section aria-label="Totals">
            <Sums view={view} />
            <CheckOut problems={problems} lines={lines} />
            <p className="mt-4 border-t border-base-300 pt-3 text-soft">
              {view.terms
                ? `Paid on account, ${view.terms}, or by card at checkout.`
                : 'Paid by card at checkout.'}
            </p>
          </section>
        </div>
      )}
    </>
  )
}

function CartLines({ view: { lines, gifts, problems, digits, priceDigits } }: { readonly view: CartView }) {
  return (
    <div role="table" aria-label="Items in the cart">
      <div role="row" className="cart-row border-b border-base-content pb-1 text-soft max-md:hidden">
        <span role="columnheader" className="col-span-2">
          Item
        </span>
        <span role="columnheader">Quantity</span>
        <span role="columnheader" className="text-right">
          Unit price
        </span>
        <span role="columnheader" className="text-right">
          Line total
        </span>
        <span role="columnheader" className="sr-only">
          Remove
        </span>
      </div>
      {lines.map((line) => (
        <Line
          key={`${line.position} ${line.sku} ${line.quantity}`}
          line={line}
          problems={problems.filter((problem) => problem.line === line.position)}
          digits={digits}
          priceDigits={priceDigits}
        />
      ))}
      {gifts.map((line) => (
        <Line
          key={`gift ${line.position}`}
          line={line}
          problems={[]}
          digits={digits}
          priceDigits={priceDigits}
          isGift
        />
      ))}
    </div>
  )
}

interface LineProps {
  readonly line: CartLineView
  readonly problems: readonly CartProblemView[]
  readonly digits: number
  readonly priceDigits: number
  /** Given for nothing: it comes and goes with its promotion. */
  readonly isGift?: boolean
}

function Line({ line, problems, digits, priceDigits, isGift = false }: LineProps) {
  const text = (amount: Decimal | null, places: number) =>
    amount === null ? '–' : formatAmount(amount, places)
  const isWrong = problems.length > 0
  return (
    <div
      role="row"
      className={`cart-row border-b border-base-300 py-3 ${isWrong ? '-ml-4 border-l-4 border-l-error bg-error/5 pl-3' : ''}`}
    >
      <span role="cell" className="row-span-2 flex size-14 items-center justify-center bg-plate">
        <ProductPicture name={line.picture} className="size-11 object-contain" />
      </span>
      <span role="cell" className="min-w-0">
        <Link
          href={`${recordHref('shop/product', line.product)}?sku=${encodeURIComponent(line.sku)}`}
          className="text-base font-semibold hover:underline"
        >
          {line.name}
        </Link>
        {line.extras.length > 0 && <span className="block">with {line.extras.join(', ')}</span>}
        <span className="block text-soft">{[line.sku, line.stock].filter(Boolean).join(' · ')}</span>
        {line.promotions.length > 0 && (
          <span className="block font-semibold text-primary">{line.promotions.join(', ')}</span>
        )}
        {line.isRoundedOnce && (
          <span className="block text-soft">The line is rounded once, after the quantity and its tax.</span>
        )}
      </span>
      <span role="cell" className="cart-quantity">
        {isGift ? (
          <span className="tabular-nums">{line.quantity}</span>
        ) : (
          <CartLineQuantity line={line} isWrong={isWrong} />
        )}
      </span>
      <span role="cell" className="cart-unit text-right tabular-nums">
        {text(line.unit, priceDigits)}
        {line.was !== null && (
          <span className="block text-soft max-md:inline max-md:pl-2">
            <span className="sr-only">public price </span>
            <s>{text(line.was, priceDigits)}</s>
          </span>
        )}
        {line.perUnit !== null && (
          <span className="block text-xs text-soft">
            {formatAmount(line.perUnit.amount, digits)} per {line.perUnit.per}
          </span>
        )}
      </span>
      <span role="cell" className="cart-total text-right text-base font-semibold tabular-nums">
        {line.before !== null && (
          <s className="block text-sm font-normal text-soft">
            <span className="sr-only">before promotions </span>
            {text(line.before, digits)}
          </s>
        )}
        {isGift ? 'Free' : text(line.total, digits)}
      </span>
      <span role="cell" className="cart-remove">
        <form action={changeLine} className={isGift ? 'hidden' : ''}>
          <input type="hidden" name="line" value={line.position} />
          <input type="hidden" name="sku" value={line.sku} />
          <button
            type="submit"
            name="gone"
            value="1"
            aria-label={`Remove ${line.name}`}
            className="p-1 hover:text-error"
          >
            <IconX size={18} stroke={1.5} aria-hidden />
          </button>
        </form>
      </span>
      {isWrong && (
        <div role="cell" className="cart-problems">
          {problems.map((problem) => (
            <Problem key={problem.text} problem={problem} sku={line.sku} />
          ))}
        </div>
      )}
    </div>
  )
}

function Problem({
  problem: { text, fixes },
  sku,
}: {
  readonly problem: CartProblemView
  readonly sku: string
}) {
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 py-0.5 font-medium text-error">
      {text}
      {fixes.map(({ line, quantity, label, without }) => (
        <form key={label} action={changeLine}>
          <input type="hidden" name="line" value={line} />
          <input type="hidden" name="sku" value={sku} />
          <input type="hidden" name="quantity" value={quantity} />
          {without !== undefined && <input type="hidden" name="without" value={without} />}
          <button
            type="submit"
            className="rounded-field border border-error px-2.5 py-0.5 font-semibold hover:bg-error hover:text-error-content"
          >
            {label}
          </button>
        </form>
      ))}
    </div>
  )
}

function CheckOut({
  problems,
  lines,
}: {
  readonly problems: readonly CartProblemView[]
  readonly lines: readonly CartLineView[]
}) {
  if (problems.length === 0)
    return (
      <Link href="/shop/checkout" className="btn mt-4 h-12 w-full text-base btn-primary">
        Check out
      </Link>
    )
  const ofLines = new Set(problems.flatMap(({ line }) => (line === null ? [] : [line]))).size
  return (
    <section aria-label="To correct before checkout">
      <span
        aria-disabled
        className="mt-4 flex h-12 w-full items-center justify-center rounded-field border border-base-300 bg-base-200 text-base font-semibold text-soft"
      >
        Check out
      </span>
      <p className="pt-2 font-semibold text-error">
        {ofLines === 0
          ? 'Before you can check out'
          : ofLines === 1
            ? 'One line to correct first'
            : `${ofLines} lines to correct first`}
      </p>
      <ul>
        {problems.map((problem) => (
          <li key={problem.text} className="py-0.5">
            {problem.line === null || problem.text.startsWith(problem.item) ? (
              problem.text
            ) : (
              <>
                {problem.item || lines[problem.line]?.name}: {problem.text}
              </>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}
