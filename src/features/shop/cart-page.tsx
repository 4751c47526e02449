import { type Decimal } from '@/core/decimal/decimal'
import { formatAmount, formatMoney } from '@/ui/format/amount'
import Link from 'next/link'
import { changeLine } from './cart-actions'
import type { CartLineView, CartProblemView, CartView } from './cart-view'
import { recordHref } from '@/ui/frame/record-href'

interface CartPageProps {
  readonly view: CartView
  /** What went wrong with what was just done; empty otherwise. */
  readonly notice: string
}

/** What is in the cart, what stands in the way of ordering it, and what it comes to. */
export function CartPage({ view, notice }: CartPageProps) {
  const { lines, problems } = view
  return (
    <>
      <h1 className="pb-4 text-3xl leading-9 font-bold tracking-tight">Cart</h1>
      {notice && (
        <p role="alert" className="pb-4 text-error">
          {notice}
        </p>
      )}
      {lines.length === 0 ? (
        <p className="text-base">
          Nothing is in it yet. Look around, or <QuickLink>paste a list of SKUs</QuickLink>.
        </p>
      ) : (
        <div className="grid gap-x-12 gap-y-8 lg:grid-cols-[1fr_20rem]">
          <div>
            <CartTable view={view} />
            <p className="pt-3 text-soft">
              More of the same? <QuickLink>Paste a list of SKUs</QuickLink>.
            </p>
          </div>
          <section aria-label="Sums">
            <Sums view={view} />
            {problems.length > 0 && <Problems problems={problems} lines={lines} />}
            {problems.length === 0 && (
              <Link href="/shop/checkout" className="btn mt-6 w-full btn-primary">
                Go to the checkout
              </Link>
            )}
          </section>
        </div>
      )}
    </>
  )
}

function QuickLink({ children }: { readonly children: string }) {
  return (
    <Link href="/shop/quick" className="underline underline-offset-2">
      {children}
    </Link>
  )
}

const DISPLAY = { net: 'without tax', gross: 'with tax', both: 'without tax' } as const

function CartTable({ view: { lines, display, currency, digits, priceDigits } }: { readonly view: CartView }) {
  const text = (amount: Decimal | null, places: number) =>
    amount === null ? '–' : formatAmount(amount, places)
  return (
    <table className="w-full">
      <caption className="pb-1 text-left text-soft">
        Prices in {currency}, {DISPLAY[display]}
      </caption>
      <thead>
        <tr className="border-b border-base-300 text-left text-soft">
          <th className="py-1 font-normal">Article</th>
          <th className="py-1 font-normal">Quantity</th>
          <th className="py-1 text-right font-normal">Each</th>
          <th className="py-1 pl-4 text-right font-normal">Together</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <tr key={line.position} className="border-b border-base-300 align-baseline">
            <td className="py-3 pr-4">
              <Link
                href={`${recordHref('shop/product', line.product)}?sku=${encodeURIComponent(line.sku)}`}
                className="font-semibold hover:underline"
              >
                {line.name}
              </Link>{' '}
              <span className="text-xs text-soft">{line.sku}</span>
              {line.extras.length > 0 && <span className="block">with {line.extras.join(', ')}</span>}
              {line.stock && <span className="block text-soft">{line.stock}</span>}
            </td>
            <td className="py-3 pr-4">
              <LineQuantity line={line} />
            </td>
            <td className="py-3 text-right tabular-nums">{text(line.unit, priceDigits)}</td>
            <td className="py-3 text-right font-semibold tabular-nums">{text(line.total, digits)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function LineQuantity({ line }: { readonly line: CartLineView }) {
  const field = {
    name: 'quantity',
    defaultValue: line.quantity,
    'aria-label': `Quantity of ${line.sku}`,
    className: 'w-20 border border-base-300 bg-lifted px-2 py-1 text-right',
  }
  return (
    <form action={changeLine} className="flex items-baseline gap-2">
      <input type="hidden" name="line" value={line.position} />
      <input type="hidden" name="sku" value={line.sku} />
      {line.values ? (
        <select key={line.quantity} {...field}>
          {!line.values.some(({ quantity }) => quantity === line.quantity) && (
            <option>{line.quantity}</option>
          )}
          {line.values.map(({ quantity, label }) => (
            <option key={quantity} value={quantity}>
              {label || quantity}
            </option>
          ))}
        </select>
      ) : (
        <input key={line.quantity} inputMode="decimal" {...field} />
      )}
      <button type="submit" className="text-soft underline underline-offset-2">
        Change
      </button>
      <button
        type="submit"
        name="gone"
        value="1"
        aria-label={`Take out ${line.sku}`}
        className="text-soft underline underline-offset-2"
      >
        Take out
      </button>
    </form>
  )
}

export function Sums({ view: { sums, currency, digits, untaxed } }: { readonly view: CartView }) {
  return (
    <>
      <dl className="grid grid-cols-[1fr_auto] border-t border-base-300">
        {sums.map(({ label, amount }) => (
          <div key={label} className={`contents ${label === 'Total' ? 'text-lg font-bold' : ''}`}>
            <dt className="border-b border-base-300 py-1.5">{label}</dt>
            <dd
              className="border-b border-base-300 py-1.5 text-right tabular-nums"
              data-testid={`sum-${label}`}
            >
              {formatMoney(amount, currency, digits)}
            </dd>
          </div>
        ))}
      </dl>
      {untaxed && <p className="pt-2 text-soft">{untaxed}</p>}
    </>
  )
}

function Problems({
  problems,
  lines,
}: {
  readonly problems: readonly CartProblemView[]
  readonly lines: readonly CartLineView[]
}) {
  return (
    <section aria-label="Before it can be ordered" className="mt-6 border-l-4 border-warning pl-4">
      <h2 className="font-semibold">Before it can be ordered</h2>
      <ul>
        {problems.map(({ text, fixes }) => (
          <li key={text} className="py-1">
            {text}
            <span className="flex flex-wrap gap-2 pt-1">
              {fixes.map(({ line, quantity, label, without }) => (
                <form key={label} action={changeLine}>
                  <input type="hidden" name="line" value={line} />
                  <input type="hidden" name="sku" value={lines[line]?.sku} />
                  <input type="hidden" name="quantity" value={quantity} />
                  {without !== undefined && <input type="hidden" name="without" value={without} />}
                  <button type="submit" className="btn border-base-300 btn-sm">
                    {label}
                  </button>
                </form>
              ))}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
