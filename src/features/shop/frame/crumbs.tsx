import Link from 'next/link'
import type { ShopCategoryLink } from './shop-view'
import { recordHref } from '@/ui/frame/record-href'

/** The way from the shop's front page to here. */
export function Crumbs({ path }: { readonly path: readonly ShopCategoryLink[] }) {
  return (
    <nav aria-label="Where you are" className="pb-3 text-soft">
      <ol className="flex flex-wrap gap-x-2">
        <li>
          <Link href="/shop" className="hover:underline">
            Shop
          </Link>
        </li>
        {path.map(({ code, name }) => (
          <li key={code}>
            <span aria-hidden>› </span>
            <Link href={recordHref('shop/category', code)} className="hover:underline">
              {name}
            </Link>
          </li>
        ))}
      </ol>
    </nav>
  )
}
