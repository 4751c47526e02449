import Link from 'next/link'
import { SHOP_INPUT } from '../frame/labelled'
import { beginList } from './list-actions'
import type { ListsView } from './list-view'

/** What an account orders again and again, by name; and what a list could be made of. */
export function ListsPage({ view: { lists, regular, mayKeepAlone } }: { readonly view: ListsView }) {
  return (
    <>
      <h1 className="pb-1 text-3xl leading-9 font-bold tracking-tight">Lists</h1>
      <p className="max-w-2xl pb-5 text-base text-soft">
        What you order again and again, with how many of each: at today’s prices, all or some into the cart.
      </p>
      <ul className="max-w-3xl">
        {lists.map(({ id, name, about }) => (
          <li key={id} className="border-b border-base-300">
            <Link
              href={`/shop/lists/${id}`}
              className="flex flex-wrap justify-between gap-x-4 py-3 text-base hover:bg-base-200"
            >
              <b className="font-semibold">{name}</b>
              <span className="text-soft">{about}</span>
            </Link>
          </li>
        ))}
      </ul>
      {lists.length === 0 && <p className="text-base">There is no list yet.</p>}
      <form action={beginList} className="flex max-w-3xl flex-wrap items-end gap-4 pt-5">
        <label className="min-w-56 flex-1">
          <span className="text-soft">A new list</span>
          <input name="name" className={SHOP_INPUT} maxLength={80} placeholder="Spring order" />
        </label>
        {mayKeepAlone && (
          <label>
            <span className="text-soft">For</span>
            <select name="shared" className={SHOP_INPUT}>
              <option value="yes">everybody of the account</option>
              <option value="no">me alone</option>
            </select>
          </label>
        )}
        <button type="submit" className="btn btn-outline">
          Make the list
        </button>
      </form>
      {regular.length > 0 && (
        <form action={beginList} className="max-w-3xl pt-8">
          <h2 className="border-b border-base-content pb-1 text-lg font-semibold">
            What you order regularly
          </h2>
          <input type="hidden" name="name" value="What we order regularly" />
          <ul>
            {regular.map(({ sku, name, quantity, about }) => (
              <li key={sku} className="border-b border-base-300 py-2">
                <label className="flex gap-3">
                  <input
                    type="checkbox"
                    className="checkbox mt-0.5 checkbox-sm"
                    name="line"
                    value={`${quantity} ${sku}`}
                    defaultChecked
                  />
                  <span className="flex-1">{name}</span>
                  <span className="text-soft">{about}</span>
                </label>
              </li>
            ))}
          </ul>
          <button type="submit" className="btn mt-4 btn-outline">
            Make a list of these
          </button>
        </form>
      )}
    </>
  )
}
