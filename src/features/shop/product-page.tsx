'use client'

import { decimal } from '@/core/decimal/decimal'
import { isAllowed, nearestQuantities } from '@/core/limits/nearest-quantities'
import { formatMoney } from '@/ui/format/amount'
import { useReady } from '@/ui/frame/use-ready'
import { isQuantity } from '@/ui/frame/vantage-url'
import { useEffect, useState, useTransition } from 'react'
import { Picture } from './card-grid'
import { Crumbs } from './crumbs'
import { PriceTag } from './price-tag'
import { addToCart, type Added } from './cart-actions'
import type { ShopMoney, ShopProduct, ShopQuote, ShopVariant } from './shop-view'
import { DISPLAY_WORDS } from '@/ui/format/terms-phrases'
import Link from 'next/link'
import { useRouter } from 'next/navigation'

interface ProductPageProps {
  readonly product: ShopProduct
  readonly money: ShopMoney
  /** The SKU chosen in the address, if any. */
  readonly chosen: string | null
}

/** A product with its variants to choose from, at the visitor's own price for the quantity they type. */
export function ProductPage({ product, money, chosen }: ProductPageProps) {
  const [sku, setSku] = useState(
    product.variants.find((variant) => variant.sku === chosen)?.sku ?? product.variants[0]?.sku,
  )
  const variant = product.variants.find((each) => each.sku === sku)
  const several = product.variants.length > 1
  return (
    <>
      <Crumbs path={product.path} />
      <div className="grid gap-12 md:grid-cols-2">
        <Picture name={product.picture} />
        <div>
          <h1 className="text-3xl leading-9 font-bold tracking-tight">{product.name}</h1>
          <p className="pt-2 text-base">{product.description}</p>
          {variant && <Purchase key={variant.sku} variant={variant} unit={product.unit} money={money} />}
          {several && (
            <fieldset className="mt-8">
              <legend className="pb-2 font-semibold">{product.axes.join(', ')}</legend>
              <ul className="border-t border-base-300">
                {product.variants.map((each) => (
                  <li key={each.sku} className="border-b border-base-300">
                    <label
                      className={`flex cursor-pointer items-baseline gap-3 px-2 py-2 ${each.sku === sku ? 'bg-base-200' : 'hover:bg-base-200/60'}`}
                    >
                      <input
                        type="radio"
                        name="variant"
                        value={each.sku}
                        checked={each.sku === sku}
                        onChange={() => setSku(each.sku)}
                      />
                      <span className="flex-1">
                        {each.name} <span className="text-xs text-soft">{each.sku}</span>
                      </span>
                      <span className="text-right">
                        <PriceTag price={each.price} money={money} />
                      </span>
                    </label>
                  </li>
                ))}
              </ul>
            </fieldset>
          )}
          <dl className="grid grid-cols-[auto_1fr] gap-x-4 pt-6 text-soft">
            {!several && variant && (
              <>
                <dt>SKU</dt>
                <dd>{variant.sku}</dd>
              </>
            )}
            {product.facts.map(([name, value]) => (
              <div key={name} className="contents">
                <dt>{name}</dt>
                <dd>{value}</dd>
              </div>
            ))}
          </dl>
        </div>
      </div>
    </>
  )
}

interface PurchaseProps {
  readonly variant: ShopVariant
  readonly unit: string
  readonly money: ShopMoney
}

/** How many, with which extras, and what that costs: asked anew with every change. */
function Purchase({ variant, unit, money }: PurchaseProps) {
  const { limits } = variant
  const [typed, setTyped] = useState(limits.first)
  const [extras, setExtras] = useState<readonly string[]>([])
  const quantity = typed.trim()
  const right = isQuantity(quantity)
  const quote = useQuote(variant, right ? quantity : '1', extras)
  const text = (amount: NonNullable<ShopQuote['own']>) => formatMoney(amount, money.currency, money.digits)
  return (
    <div className="pt-6" data-ready={useReady()}>
      <p aria-live="polite">
        <PriceTag price={quote} money={money} large />
        <span className="block text-soft">
          {quote.own !== null &&
            `${unit === 'each' ? 'each' : `per ${unit}`}, ${DISPLAY_WORDS[money.display === 'both' ? 'net' : money.display]}`}
          {quote.was !== null && ' · your price, beside the one for everybody'}
        </span>
      </p>
      {variant.stock && <p className="pt-2">{variant.stock}</p>}
      <label className="flex flex-wrap items-baseline gap-3 pt-4">
        <span className="font-semibold">Quantity</span>
        {limits.values ? (
          <select
            className="border border-base-300 bg-lifted px-3 py-1.5"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
          >
            {limits.values.map((value) => (
              <option key={value.quantity} value={value.quantity}>
                {value.label ? `${value.quantity}, ${value.label}` : value.quantity}
              </option>
            ))}
          </select>
        ) : (
          <input
            inputMode="decimal"
            aria-invalid={!right}
            className="w-24 border border-base-300 bg-lifted px-3 py-1.5 text-right aria-[invalid=true]:border-error"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
          />
        )}
        {quote.total !== null && quantity !== '1' && right && (
          <span data-testid="total">
            {quantity} for <b>{text(quote.total)}</b>
          </span>
        )}
        {!right && (
          <span role="alert" className="text-error">
            A quantity is a number above zero, such as 12.
          </span>
        )}
      </label>
      {limits.help && <p className="pt-1 text-soft">{limits.help}</p>}
      <Buy variant={variant} quantity={quantity} extras={extras} onFix={setTyped} />
      {variant.breaks.length > 0 && (
        <table className="mt-4" data-testid="break-table">
          <caption className="pb-1 text-left font-semibold">The more, the less each</caption>
          <tbody>
            {variant.breaks.map(({ from, unit: each }, at) => (
              <tr key={from} className="border-t border-base-300">
                <th scope="row" className="py-1 pr-8 text-left font-normal">
                  <button
                    type="button"
                    className="underline decoration-dotted underline-offset-4"
                    onClick={() => setTyped(from)}
                  >
                    {bracketText(from, variant.breaks[at + 1]?.from)}
                  </button>
                </th>
                <td className="py-1 text-right">{text(each)} each</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {variant.extras.length > 0 && (
        <fieldset className="mt-4">
          <legend className="font-semibold">With</legend>
          {variant.extras.map(({ code, name, price }) => (
            <label key={code} className="flex cursor-pointer items-baseline gap-2 py-0.5">
              <input
                type="checkbox"
                disabled={price === null}
                checked={extras.includes(code)}
                onChange={(event) =>
                  setExtras(event.target.checked ? [...extras, code] : extras.filter((each) => each !== code))
                }
              />
              {name}
              <span className="text-soft">
                {price === null ? 'price on request' : `${text(price)} more each`}
              </span>
            </label>
          ))}
        </fieldset>
      )}
    </div>
  )
}

interface BuyProps {
  readonly variant: ShopVariant
  readonly quantity: string
  readonly extras: readonly string[]
  readonly onFix: (quantity: string) => void
}

/** Puts it into the cart, or says why that cannot be and offers the quantities that can. */
function Buy({ variant, quantity, extras, onFix }: BuyProps) {
  const router = useRouter()
  const [isBusy, start] = useTransition()
  const [added, setAdded] = useState<Added | null>(null)
  if (variant.notForSale !== null) return <p className="pt-4 font-semibold">{variant.notForSale}</p>
  const near = nearQuantities(variant.limits, quantity)
  return (
    <div className="pt-4">
      {near.length > 0 && (
        <p role="alert" className="flex flex-wrap items-baseline gap-2 pb-2 text-error">
          {quantity} cannot be bought.
          {near.map((each) => (
            <button key={each} type="button" className="btn btn-sm" onClick={() => onFix(each)}>
              Make it {each}
            </button>
          ))}
        </p>
      )}
      <button
        type="button"
        className="btn btn-primary"
        disabled={isBusy}
        onClick={() =>
          start(async () => {
            setAdded(await addToCart(variant.sku, quantity, extras))
            router.refresh()
          })
        }
      >
        Put into the cart
      </button>
      <p aria-live="polite" className="min-h-6 pt-1">
        {added?.ok === true && (
          <>
            {added.quantity} in the cart.{' '}
            <Link href="/shop/cart" className="underline underline-offset-2">
              Look at the cart
            </Link>
          </>
        )}
        {added?.ok === false && <span className="text-error">{added.problem}</span>}
      </p>
    </div>
  )
}

/** The right quantities beside a wrong one; empty when it is right or cannot be read. */
function nearQuantities({ own }: ShopVariant['limits'], typed: string): readonly string[] {
  if (!isQuantity(typed) || isAllowed(decimal(typed), own)) return []
  const { below, above } = nearestQuantities(decimal(typed), own)
  return [...new Set([below, above])].filter((near) => near !== null)
}

/** `1 – 9`, `10 – 49`, `from 50`. */
function bracketText(from: string, next: string | undefined): string {
  if (next === undefined) return `from ${from}`
  return /^\d+$/.test(from) && /^\d+$/.test(next)
    ? `${from} – ${Number(next) - 1}`
    : `${from} to below ${next}`
}

/** How long typing must rest before the price follows it. */
const REST = 120

/** What the shop asks for a quantity; what it said last while it is being asked. */
function useQuote(variant: ShopVariant, quantity: string, extras: readonly string[]): ShopQuote {
  const first: ShopQuote = { ...variant.price, total: variant.price.own }
  const [quote, setQuote] = useState<ShopQuote>(first)
  const wanted = `sku=${encodeURIComponent(variant.sku)}&quantity=${quantity}${extras.map((code) => `&extra=${encodeURIComponent(code)}`).join('')}`
  const isFirst = extras.length === 0 && decimal(quantity) === '1'
  useEffect(() => {
    if (isFirst) return
    const stop = new AbortController()
    const timer = setTimeout(() => {
      fetch(`/api/shop/price?${wanted}`, { signal: stop.signal })
        .then(async (response) => {
          if (response.ok) setQuote((await response.json()) as ShopQuote)
        })
        .catch(() => undefined)
    }, REST)
    return () => {
      clearTimeout(timer)
      stop.abort()
    }
  }, [wanted, isFirst])
  return isFirst ? first : quote
}
