import Link from 'next/link'
import { CardGrid } from './card-grid'
import { Crumbs } from '../frame/crumbs'
import { PageLinks } from '../frame/page-links'
import type { ShopListing, ShopMoney } from '../frame/shop-view'
import { recordHref } from '@/ui/frame/record-href'

/** The products of one branch, and the branches below it. */
export function CategoryPage({
  code,
  listing,
  money,
}: {
  readonly code: string
  readonly listing: ShopListing
  readonly money: ShopMoney
}) {
  return (
    <>
      <Crumbs path={listing.path.slice(0, -1)} />
      <h1 className="pb-3 text-3xl leading-9 font-bold tracking-tight">{listing.title}</h1>
      {listing.children.length > 0 && (
        <ul className="flex flex-wrap gap-x-6 gap-y-1 pb-6">
          {listing.children.map(({ code, name }) => (
            <li key={code}>
              <Link href={recordHref('shop/category', code)} className="link-name">
                {name}
              </Link>
            </li>
          ))}
        </ul>
      )}
      <CardGrid cards={listing.cards} money={money} />
      <PageLinks {...listing} path={recordHref('shop/category', code)} />
    </>
  )
}
