import Link from 'next/link'
import type { ShopPages } from './shop-view'

/** Leads through a list page by page; nothing where all of it is shown. `path` has an address already. */
export function PageLinks({ page, pages, path }: ShopPages & { readonly path: string }) {
  if (pages === 1) return null
  const to = (number: number) => `${path}${path.includes('?') ? '&' : '?'}page=${number}`
  return (
    <nav aria-label="Pages" className="flex items-baseline justify-center gap-x-6 pt-10">
      {page > 1 && (
        <Link rel="prev" href={to(page - 1)} className="link-name">
          ← Previous
        </Link>
      )}
      <span className="text-soft">
        Page {page} of {pages}
      </span>
      {page < pages && (
        <Link rel="next" href={to(page + 1)} className="link-name">
          Next →
        </Link>
      )}
    </nav>
  )
}
