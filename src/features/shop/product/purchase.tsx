'use client'

import { decimal } from '@/core/decimal/decimal'
import { isAllowed, nearestQuantities } from '@/core/limits/nearest-quantities'
import { formatMoney } from '@/ui/format/amount'
import { useReady } from '@/ui/frame/use-ready'
import { isQuantity } from '@/ui/frame/vantage-url'
import { IconCircleCheck, IconGift } from '@tabler/icons-react'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { type Added, addToCart } from '../cart/cart-actions'
import { PriceTag } from '../frame/price-tag'
import { QuantityStepper } from './quantity-stepper'
import type { ShopMoney, ShopQuote, ShopVariant } from '../frame/shop-view'
import { askHref } from '../quotes/ask-href'
import { useQuote } from './use-quote'

interface PurchaseProps {
  readonly variant: ShopVariant
  readonly unit: string
  readonly money: ShopMoney
  readonly typed: string
  readonly onType: (typed: string) => void
}

/** How many, with which extras, and what that costs: asked anew with every change. */
export function Purchase({ variant, unit, money, typed, onType }: PurchaseProps) {
  const { limits, notForSale } = variant
  const [extras, setExtras] = useState<readonly string[]>([])
  const quantity = typed.trim()
  const isRead = isQuantity(quantity)
  const quote = useQuote(variant, isRead ? quantity : '1', extras)
  return (
    <div data-ready={useReady()}>
      <Price quote={quote} unit={unit} money={money} />
      <Notes notes={quote.notes} />
      {variant.extras.length > 0 && (
        <Extras variant={variant} money={money} chosen={extras} onChoose={setExtras} />
      )}
      {notForSale === null ? (
        <Buy
          variant={variant}
          unit={unit}
          money={money}
          typed={typed}
          onType={onType}
          extras={extras}
          total={isRead ? quote.total : null}
        />
      ) : (
        <p className="border-y border-base-300 py-3 text-base font-semibold">{notForSale}</p>
      )}
      {variant.mayAsk && (
        <p className="pt-2">
          <Link
            href={askHref([{ sku: variant.sku, quantity: isRead ? quantity : '1' }])}
            className={notForSale === null ? 'shop-link' : 'btn btn-primary'}
          >
            Ask for a quote
          </Link>
        </p>
      )}
      <div className="mt-3 flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1 border-t border-base-300 pt-3">
        {variant.stock && (
          <span className="flex items-center gap-2 font-semibold">
            <IconCircleCheck size={18} stroke={1.5} aria-hidden className="text-primary" />
            {variant.stock}
          </span>
        )}
        <span className="ml-auto text-soft">SKU {variant.sku}</span>
      </div>
      {limits.help && notForSale === null && <p className="pt-1 text-soft">{limits.help}</p>}
    </div>
  )
}

interface PriceProps {
  readonly quote: ShopQuote
  readonly unit: string
  readonly money: ShopMoney
}

function Price({ quote, unit, money }: PriceProps) {
  if (quote.own === null)
    return (
      <p className="pt-5 text-lg" aria-live="polite">
        <PriceTag price={quote} money={money} />
      </p>
    )
  const text = (amount: NonNullable<ShopQuote['own']>) => formatMoney(amount, money.currency, money.digits)
  const shown = money.words[money.display === 'gross' ? 'gross' : 'net']
  return (
    <p className="flex flex-wrap items-center gap-x-5 gap-y-1 pt-5 pb-4" aria-live="polite">
      <span className="text-4xl leading-11 font-bold tracking-tight tabular-nums" data-testid="own-price">
        {text(quote.own)}
      </span>
      <span className="grow">
        <span className="block">
          {quote.was !== null && <b>{quote.isPromoted ? 'Now' : 'Your price'}</b>}{' '}
          {unit === 'each' ? 'each' : `per ${unit}`}, {shown}
        </span>
        <span className="block text-soft">
          {quote.was !== null && (
            <>
              {quote.isPromoted ? 'Before' : 'Public price'} <s data-testid="was-price">{text(quote.was)}</s>
            </>
          )}
          {quote.was !== null && quote.perUnit !== null && ' · '}
          {quote.perUnit !== null && (
            <span data-testid="per-unit">
              {formatMoney(quote.perUnit.amount, money.currency, money.minorDigits)} per {quote.perUnit.per}
            </span>
          )}
        </span>
      </span>
      {quote.withTax !== null && (
        <span className="text-right" data-testid="with-tax">
          <span className="block text-soft">{money.words.gross}</span>
          <b>{text(quote.withTax)}</b>
        </span>
      )}
    </p>
  )
}

/** What promotions offer on so many, and until when. */
function Notes({ notes }: { readonly notes: ShopQuote['notes'] }) {
  if (notes.length === 0) return null
  return (
    <ul
      className="mb-4 grid gap-3 bg-warning px-3.5 py-2.5 text-warning-content"
      aria-label="Promotions"
      aria-live="polite"
    >
      {notes.map(({ name, text, ends }) => (
        <li key={name} className="flex gap-3">
          <IconGift size={18} stroke={1.5} aria-hidden className="mt-0.5 shrink-0 text-accent" />
          <span>
            <b className="block text-base">{name}</b>
            {[text, ends && `${ends[0]?.toUpperCase()}${ends.slice(1)}.`].filter(Boolean).join(' ')}
          </span>
        </li>
      ))}
    </ul>
  )
}

interface ExtrasProps {
  readonly variant: ShopVariant
  readonly money: ShopMoney
  readonly chosen: readonly string[]
  readonly onChoose: (codes: readonly string[]) => void
}

function Extras({ variant, money, chosen, onChoose }: ExtrasProps) {
  return (
    <fieldset className="border-t border-base-300 py-3">
      <legend className="sr-only">Options and extras</legend>
      {variant.extras.map(({ code, name, price }) => (
        <label key={code} className="flex cursor-pointer items-baseline gap-3 py-1 text-base">
          <input
            type="checkbox"
            disabled={price === null}
            checked={chosen.includes(code)}
            onChange={(event) =>
              onChoose(event.target.checked ? [...chosen, code] : chosen.filter((each) => each !== code))
            }
          />
          <span className="grow font-semibold">{name}</span>
          <span>
            {price === null
              ? 'price on request'
              : `+ ${formatMoney(price, money.currency, money.digits)} each`}
          </span>
        </label>
      ))}
    </fieldset>
  )
}

interface BuyProps extends PurchaseProps {
  readonly extras: readonly string[]
  readonly total: ShopQuote['total']
}

/** Adds it to the cart, or says why that cannot be and offers the quantities that can. */
function Buy({ variant, unit, money, typed, onType, extras, total }: BuyProps) {
  const router = useRouter()
  const [isBusy, start] = useTransition()
  const [added, setAdded] = useState<Added | null>(null)
  const { limits } = variant
  const quantity = typed.trim()
  const wrong = isQuantity(quantity) ? wrongQuantity(limits, quantity) : UNREADABLE
  return (
    <div className="border-t border-base-300 pt-4">
      <div className="flex flex-wrap gap-3.5">
        {limits.values ? (
          <select
            aria-label={`Quantity of ${variant.sku}`}
            className="h-12 rounded-field border border-base-300 bg-lifted px-3 text-lg font-semibold"
            value={typed}
            onChange={(event) => onType(event.target.value)}
          >
            {limits.values.map((value) => (
              <option key={value.quantity} value={value.quantity}>
                {value.label ? `${value.quantity}, ${value.label}` : value.quantity}
              </option>
            ))}
          </select>
        ) : (
          <QuantityStepper
            label={variant.sku}
            typed={typed}
            step={limits.step}
            isWrong={wrong !== null}
            large
            onType={onType}
          />
        )}
        <button
          type="button"
          className="btn flex h-12 min-w-56 grow justify-between px-5 text-base btn-primary"
          disabled={isBusy || wrong === UNREADABLE}
          onClick={() =>
            start(async () => {
              setAdded(await addToCart(variant.sku, quantity, extras))
              router.refresh()
            })
          }
        >
          <span>Add to cart</span>
          {total !== null && (
            <span data-testid="total">{formatMoney(total, money.currency, money.digits)}</span>
          )}
        </button>
      </div>
      {wrong !== null ? (
        <p role="alert" className="flex flex-wrap items-baseline gap-2 pt-2 text-error">
          {wrong.text}
          {wrong.near.map((each) => (
            <button
              key={each}
              type="button"
              className="rounded-field border border-error px-2.5 font-semibold"
              onClick={() => onType(each)}
            >
              Change to {each}
            </button>
          ))}
        </p>
      ) : (
        limits.step !== null && (
          <p className="pt-1.5 text-soft">
            {unit === 'each' ? 'Pieces' : unit}, in multiples of {limits.step}
          </p>
        )
      )}
      <p aria-live="polite" className="min-h-6 pt-1">
        {added?.ok === true && (
          <>
            {added.quantity} in the cart.{' '}
            <Link href="/shop/cart" className="shop-link">
              View cart
            </Link>
          </>
        )}
        {added?.ok === false && <span className="text-error">{added.problem}</span>}
      </p>
    </div>
  )
}

interface WrongQuantity {
  readonly text: string
  /** The right quantities beside it. */
  readonly near: readonly string[]
}

const UNREADABLE: WrongQuantity = { text: 'Enter a quantity above zero, such as 12.', near: [] }

/** What is wrong with a quantity; `null` when it can be bought. */
function wrongQuantity({ own }: ShopVariant['limits'], typed: string): WrongQuantity | null {
  if (isAllowed(decimal(typed), own)) return null
  const { below, above } = nearestQuantities(decimal(typed), own)
  return {
    text: `${typed} cannot be ordered.`,
    near: [...new Set([below, above])].filter((near) => near !== null),
  }
}
