import { VantageLink } from '@/ui/frame/vantage-link'
import type { BoardView } from './board-view'

/** What an empty store needs, in the order it is needed. */
export function FirstSteps({ counts }: { readonly counts: BoardView['has'] }) {
  const steps = [
    {
      name: 'A category',
      about: 'a branch of the catalogue; rules can be for whole branches',
      href: '/categories/new',
      done: counts.categories > 0,
    },
    {
      name: 'A product',
      about: 'what a page of the shop is about, with its base price',
      href: '/product-records/new',
      done: counts.products > 0,
    },
    {
      name: 'A variant of it',
      about: 'the SKU that is priced and bought',
      href: '/variant-records/new',
      done: counts.variants > 0,
    },
    {
      name: 'A customer group',
      about: 'buyers who are treated alike, such as bee farms',
      href: '/groups/new',
      done: counts.groups > 0,
    },
    {
      name: 'A price list for the group',
      about: 'its price level, such as 12 % off base',
      href: '/price-lists/new',
      done: counts.lists > 0,
    },
  ]
  const next = steps.findIndex(({ done }) => !done)
  return (
    <section className="max-w-xl px-2 py-6">
      <h2 className="pb-2 text-base font-semibold">From nothing to the first price</h2>
      <ol>
        {steps.map(({ name, about, href, done }, at) => (
          <li key={name} className="flex items-baseline gap-3 border-b border-base-300 py-2">
            <span aria-hidden className="w-4 text-right text-soft">
              {done ? '✓' : at + 1}
            </span>
            <span className={done ? 'text-soft' : ''}>
              {at === next ? (
                <VantageLink href={href} className="link-name font-semibold">
                  {name}
                </VantageLink>
              ) : (
                name
              )}
              <span className="text-soft">
                {' '}
                {about}
                {done && <span className="sr-only">, done</span>}
              </span>
            </span>
          </li>
        ))}
      </ol>
      <p className="pt-3 text-soft">
        Then look as a buyer: click the word behind “Looking as” above, and every figure follows.
      </p>
    </section>
  )
}
