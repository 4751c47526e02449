import { ProductPicture } from '@/ui/format/product-picture'
import Link from 'next/link'
import { PriceTag } from '../frame/price-tag'
import type { ShopCard, ShopMoney } from '../frame/shop-view'
import { askHref } from '../quotes/ask-href'
import { recordHref } from '@/ui/frame/record-href'

/** Products side by side, each with the visitor's own price. */
export function CardGrid({
  cards,
  money,
}: {
  readonly cards: readonly ShopCard[]
  readonly money: ShopMoney
}) {
  return (
    <ul className="grid grid-cols-2 gap-x-8 gap-y-10 md:grid-cols-3 lg:grid-cols-4">
      {cards.map((card) => (
        <li key={card.code}>
          <Link href={recordHref('shop/product', card.code)} className="group block">
            <Picture name={card.picture} />
            <h2 className="pt-3 text-base leading-6 font-semibold group-hover:underline">{card.name}</h2>
            <p className="line-clamp-2 min-h-10 text-soft">{card.about}</p>
            <p className="pt-1">
              <PriceTag price={card.price} money={money} from={card.from} />
            </p>
            {card.badge && (
              <p className="pt-1 leading-5 text-primary" data-testid="badge">
                <span className="font-semibold">{card.badge.name}</span>
                {card.badge.ends && <span className="block text-soft">{card.badge.ends}</span>}
              </p>
            )}
          </Link>
          {card.byQuote !== null && (
            <Link href={askHref([{ sku: card.byQuote, quantity: '1' }])} className="shop-link">
              Ask for a quote
            </Link>
          )}
        </li>
      ))}
    </ul>
  )
}

/** A drawing on its ground. */
export function Picture({ name }: { readonly name: string }) {
  return (
    <span className="flex aspect-[4/3] items-center justify-center bg-plate">
      <ProductPicture name={name} className="h-3/4 w-3/4 object-contain" />
    </span>
  )
}
