'use client'

import { useState } from 'react'
import { Picture } from './card-grid'
import { Crumbs } from './crumbs'
import { PriceTag } from './price-tag'
import type { ShopMoney, ShopProduct } from './shop-view'

interface ProductPageProps {
  readonly product: ShopProduct
  readonly money: ShopMoney
  /** The SKU chosen in the address, if any. */
  readonly chosen: string | null
}

/** A product with its variants to choose from, at the visitor's own price. */
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
          {variant && (
            <p className="pt-6" aria-live="polite">
              <PriceTag price={variant.price} money={money} large />
              <span className="block text-soft">
                {product.unit === 'each' ? 'each' : `per ${product.unit}`}, without tax
                {variant.price.public !== null && ' · your price, beside the public one'}
              </span>
            </p>
          )}
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
