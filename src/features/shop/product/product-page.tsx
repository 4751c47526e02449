'use client'

import { useState } from 'react'
import { Picture } from '../catalogue/card-grid'
import { Crumbs } from '../frame/crumbs'
import { OptionChooser } from './option-chooser'
import { Purchase } from './purchase'
import { QuantityPrices } from './quantity-prices'
import type { ShopMoney, ShopProduct } from '../frame/shop-view'

interface ProductPageProps {
  readonly product: ShopProduct
  readonly money: ShopMoney
  /** The SKU chosen in the address, if any. */
  readonly chosen: string | null
}

/** A product: first which variant, then what it costs the visitor, then how many. */
export function ProductPage({ product, money, chosen }: ProductPageProps) {
  const [sku, setSku] = useState(
    product.variants.find((variant) => variant.sku === chosen)?.sku ?? product.variants[0]?.sku,
  )
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>({})
  const variant = product.variants.find((each) => each.sku === sku)
  const quantity = variant ? (typed[variant.sku] ?? variant.limits.first) : ''
  const type = (text: string) => variant && setTyped({ ...typed, [variant.sku]: text })
  return (
    <>
      <Crumbs path={product.path} />
      <div className="grid gap-x-15 gap-y-6 md:grid-cols-[minmax(0,23rem)_minmax(0,1fr)] lg:grid-cols-[minmax(0,28.75rem)_minmax(0,1fr)]">
        <div className="grid content-start gap-6 max-md:contents">
          <div className="max-md:order-1">
            <Picture name={product.picture} />
          </div>
          {variant && variant.breaks.length > 0 && (
            <div className="max-md:order-3">
              <QuantityPrices variant={variant} money={money} quantity={quantity} onChoose={type} />
            </div>
          )}
          {product.facts.length > 0 && (
            <dl className="grid grid-cols-[auto_1fr] content-start gap-x-4 text-soft max-md:order-4">
              {product.facts.map(([name, value]) => (
                <div key={name} className="contents">
                  <dt>{name}</dt>
                  <dd>{value}</dd>
                </div>
              ))}
            </dl>
          )}
        </div>
        <div className="max-md:order-2">
          <h1 className="text-3xl leading-9 font-bold tracking-tight">{product.name}</h1>
          <p className="pt-1 text-base text-soft">{product.description}</p>
          {variant && product.variants.length > 1 && (
            <OptionChooser product={product} chosen={variant} money={money} onChoose={setSku} />
          )}
          {variant && (
            <Purchase
              key={variant.sku}
              variant={variant}
              unit={product.unit}
              money={money}
              typed={quantity}
              onType={type}
            />
          )}
        </div>
      </div>
    </>
  )
}
