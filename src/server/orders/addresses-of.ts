import type { Account } from '@/core/buyers/buyer'
import type { OrderAddress } from '@/core/order/order'

/** Where an account can have things delivered: its seat first, each address once. */
export function addressesOf({
  name,
  country,
  state,
  postcode,
  city,
  addresses,
}: Account): readonly OrderAddress[] {
  const seat = { name, street: addresses[0]?.street ?? '', country, state, postcode, city }
  return [seat, ...addresses.map(({ label: _, ...address }) => ({ name, ...address }))].filter(
    (each, at, all) => all.findIndex((other) => JSON.stringify(other) === JSON.stringify(each)) === at,
  )
}
