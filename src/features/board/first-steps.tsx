import { VantageLink } from '@/ui/frame/vantage-link'
import type { BoardView } from './board-view'

/** What an empty store needs, in the order it is needed. */
export function FirstSteps({ counts }: { readonly counts: BoardView['has'] }) {
  const steps = [
    {
      name: 'Import what you have',
      about: 'a spreadsheet of products, prices and stock',
      href: '/import',
      done: counts.variants > 0,
    },
    {
      name: 'Products and categories',
      about: 'what you sell, its options and costs',
      href: counts.products > 0 ? '/products' : '/products/new',
      done: counts.products > 0 && counts.variants > 0,
    },
    {
      name: 'Taxes',
      about: 'classes, and rates where you deliver',
      href: counts.rates > 0 ? '/taxes' : '/tax-classes/new',
      done: counts.rates > 0,
    },
    {
      name: 'Buyers and groups',
      about: 'who is treated alike, and who signs in',
      href: counts.groups > 0 ? '/accounts/new' : '/groups/new',
      done: counts.groups > 0 && counts.accounts > 0,
    },
    {
      name: 'Price lists',
      about: 'levels for groups, quantity prices, offers',
      href: '/price-lists/new',
      done: counts.lists > 0,
    },
    {
      name: 'Contracts',
      about: 'prices and terms agreed with one buyer',
      href: '/contracts/new',
      done: counts.contracts > 0,
    },
    {
      name: 'Currencies and regions',
      about: 'what is paid and shown where',
      href: '/currencies',
      done: false,
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
              <VantageLink href={href} className={`link-name ${at === next ? 'font-semibold' : ''}`}>
                {name}
              </VantageLink>
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
