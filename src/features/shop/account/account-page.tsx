import Link from 'next/link'
import type { ShopAccountView } from './load-account'

/** Everything of an account: who belongs to it, what waits for somebody, what was ordered and asked for. */
export function AccountPage({ view }: { readonly view: ShopAccountView }) {
  const { name, you, terms, people, addresses, waiting, orders, quotes, lists } = view
  return (
    <>
      <h1 className="text-3xl leading-9 font-bold tracking-tight">{name}</h1>
      <p className="pb-5 text-base text-soft">
        {you !== '' && `You are ${you}. `}
        {terms === '' ? 'Orders are paid by card.' : `Orders are paid on account, ${terms}, or by card.`}
      </p>
      <div className="grid gap-x-14 gap-y-8 md:grid-cols-2">
        {waiting.length > 0 && <Section title="Orders for approval" rows={waiting} all={null} none="" />}
        <Section
          title="Orders"
          rows={orders}
          all={['/shop/orders', 'All orders']}
          none="Nothing was ordered yet."
        />
        <Section
          title="Quotes"
          rows={quotes}
          all={['/shop/quotes', 'All quotes']}
          none="No quote was asked for yet."
        />
        <Section
          title="Lists"
          rows={lists}
          all={['/shop/lists', 'All lists']}
          none="No list yet: keep what you order again and again."
        />
        <section aria-label="People">
          <h2 className="border-b border-base-content pb-1 text-lg font-semibold">People</h2>
          <ul>
            {people.map((person) => (
              <li key={person.email} className="flex justify-between gap-4 border-b border-base-300 py-2">
                <span>
                  <b className="font-semibold">{person.name || person.email}</b>
                  {person.isYou && <span className="text-primary"> · you</span>}
                  {person.name !== '' && <span className="block text-soft">{person.email}</span>}
                </span>
                <span className="text-right text-soft">{person.about}</span>
              </li>
            ))}
          </ul>
          <p className="pt-2 text-soft">
            <Link href="/shop/contact" className="underline underline-offset-2">
              Tell us
            </Link>{' '}
            whom to add, and who approves.
          </p>
        </section>
        <section aria-label="Addresses">
          <h2 className="border-b border-base-content pb-1 text-lg font-semibold">Addresses</h2>
          <ul>
            {addresses.map((address) => (
              <li key={address} className="border-b border-base-300 py-2">
                {address}
              </li>
            ))}
          </ul>
        </section>
      </div>
    </>
  )
}

interface SectionProps {
  readonly title: string
  readonly rows: ShopAccountView['orders']
  readonly all: readonly [href: string, words: string] | null
  readonly none: string
}

function Section({ title, rows, all, none }: SectionProps) {
  return (
    <section aria-label={title}>
      <h2 className="flex items-baseline justify-between border-b border-base-content pb-1 text-lg font-semibold">
        {title}
        {all && (
          <Link href={all[0]} className="text-sm font-normal underline underline-offset-2">
            {all[1]}
          </Link>
        )}
      </h2>
      {rows.length === 0 && <p className="py-2 text-soft">{none}</p>}
      <ul>
        {rows.map((row) => (
          <li key={row.href} className="border-b border-base-300">
            <Link href={row.href} className="flex justify-between gap-4 py-2 hover:bg-base-200">
              <span>
                <b className="font-semibold">{row.name}</b> <span className="text-soft">{row.about}</span>
              </span>
              <span className="font-semibold tabular-nums">{row.amount}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  )
}
