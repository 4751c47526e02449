import Link from 'next/link'
import { Picture } from './card-grid'
import { PriceTag } from '../frame/price-tag'
import type { ShopCard, ShopCategoryLink, ShopMoney } from '../frame/shop-view'
import { recordHref } from '@/ui/frame/record-href'

interface ShopFrontProps {
  readonly headline: string
  readonly branches: readonly (ShopCategoryLink & { readonly card: ShopCard })[]
  readonly money: ShopMoney
}

/** The shop's front page: every department with one thing from it. */
export function ShopFront({ headline, branches, money }: ShopFrontProps) {
  return (
    <>
      <h1 className="max-w-2xl pb-8 text-4xl leading-11 font-bold tracking-tight">{headline}</h1>
      <ul className="grid grid-cols-2 gap-8 lg:grid-cols-4">
        {branches.map(({ code, name, card }) => (
          <li key={code}>
            <Link href={recordHref('shop/category', code)} className="group block">
              <Picture name={card.picture} />
              <h2 className="pt-3 text-lg leading-6 font-semibold group-hover:underline">{name}</h2>
              <p className="text-soft">
                {card.name}
                <br />
                <PriceTag price={card.price} money={money} from={card.from} />
              </p>
            </Link>
          </li>
        ))}
      </ul>
    </>
  )
}
