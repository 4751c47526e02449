'use client'

import { decimal } from '@/core/decimal/decimal'
import { formatMoney } from '@/ui/format/amount'
import { isQuantity } from '@/ui/frame/vantage-url'
import { useEffect, useState } from 'react'
import { Picture } from './card-grid'
import { Crumbs } from './crumbs'
import { PriceTag } from './price-tag'
import type { ShopMoney, ShopProduct, ShopQuote } from './shop-view'

interface ProductPageProps {
  readonly product: ShopProduct
  readonly money: ShopMoney
  /** The SKU chosen in the address, if any. */
  readonly chosen: string | null
}

type ShopVariant = ShopProduct['variants'][number]

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
                      <PriceTag price={each.price} money={money} />
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
  const [typed, setTyped] = useState('1')
  const [extras, setExtras] = useState<readonly string[]>([])
  const quantity = typed.trim()
  const right = isQuantity(quantity)
  const quote = useQuote(variant, right ? quantity : '1', extras)
  const text = (amount: NonNullable<ShopQuote['own']>) => formatMoney(amount, money.currency, money.digits)
  return (
    <div className="pt-6">
      <p aria-live="polite">
        <PriceTag price={quote} money={money} large />
        <span className="block text-soft">
          {unit === 'each' ? 'each' : `per ${unit}`}, without tax
          {quote.was !== null && ' · your price, beside the one for everybody'}
        </span>
      </p>
      <label className="flex flex-wrap items-baseline gap-3 pt-4">
        <span className="font-semibold">Quantity</span>
        <input
          inputMode="decimal"
          aria-invalid={!right}
          className="w-24 border border-base-300 bg-lifted px-3 py-1.5 text-right aria-[invalid=true]:border-error"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
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
