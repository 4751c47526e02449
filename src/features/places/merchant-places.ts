import 'server-only'

import type { Store } from '@/core/store/store'
import type { Place } from '@/ui/frame/places'

/** The places of the merchant's frame, with how much is in each. */
export function merchantPlaces(store: Store): readonly Place[] {
  const products = [...store.product.values()].filter(({ status }) => status === 'active').length
  return [
    { href: '/board', name: 'Board', group: 'Look', key: 'b' },
    { href: '/look-as-buyer', name: 'Shop window', group: 'Look', key: 's' },
    { href: '/products', name: 'Products', group: 'Set', key: 'p', count: products },
    { href: '/price-lists', name: 'Price lists', group: 'Set', key: 'l', count: store['price-list'].size },
  ]
}
