import 'server-only'

import type { Permission } from '@/core/staff/permission'
import type { Store } from '@/core/store/store'
import type { Place } from '@/ui/frame/places'

/** What somebody must be allowed to be shown a place at all; looking at prices where nothing else is said. */
const WANTS: Readonly<Partial<Record<string, Permission>>> = {
  '/look-as-buyer': 'shop:look',
  '/reprice': 'drafts:edit',
  '/quotes': 'quotes:work',
  '/desk': 'desk:work',
  '/orders': 'orders:look',
  '/outbox': 'mails:look',
  '/reports': 'reports:look',
  '/import': 'live:edit',
  '/staff': 'staff:manage',
  '/programs': 'staff:manage',
  '/audit': 'audit:look',
}

/** The places of the merchant's frame that somebody may go to, with how much is in each. */
export function merchantPlaces(store: Store, permissions: ReadonlySet<Permission>): readonly Place[] {
  return allPlaces(store).filter(({ href }) => permissions.has(WANTS[href] ?? 'prices:look'))
}

function allPlaces(store: Store): readonly Place[] {
  const products = [...store.product.values()].filter(({ status }) => status === 'active').length
  return [
    { href: '/board', name: 'Board', group: 'Look', key: 'b' },
    { href: '/compare', name: 'Compare', group: 'Look', key: 'd' },
    { href: '/look-as-buyer', name: 'Shop window', group: 'Look', key: 's' },
    { href: '/calendar', name: 'Calendar', group: 'Look', key: 't' },
    {
      href: '/products',
      name: 'Products',
      group: 'Set',
      key: 'p',
      count: products,
      beside: ['/variant-records'],
    },
    { href: '/reprice', name: 'Reprice', group: 'Set', key: 'e' },
    {
      href: '/categories',
      name: 'Catalogue',
      group: 'Set',
      key: 'k',
      beside: ['/families', '/extras'],
    },
    {
      href: '/accounts',
      name: 'Buyers',
      group: 'Set',
      key: 'u',
      count: store.account.size,
      beside: ['/groups'],
    },
    {
      href: '/price-lists',
      name: 'Price lists',
      group: 'Set',
      key: 'l',
      count: store['price-list'].size,
    },
    { href: '/contracts', name: 'Contracts', group: 'Set', key: 'c', count: store.contract.size },
    {
      href: '/currencies',
      name: 'Currencies',
      group: 'Set',
      key: 'm',
      count: store.currency.size,
      beside: ['/regions', '/channels'],
    },
    {
      href: '/taxes',
      name: 'Taxes',
      group: 'Set',
      key: 'x',
      count: store['tax-rate'].size,
      beside: ['/tax-classes', '/tax-names'],
    },
    {
      href: '/limits',
      name: 'Limits',
      group: 'Set',
      key: 'q',
      count: store.limit.size,
      beside: ['/limits-in-force'],
    },
    {
      href: '/access',
      name: 'Access',
      group: 'Set',
      key: 'w',
      count: store['access-rule'].size,
      beside: ['/access-rules', '/passcodes', '/assortments'],
    },
    {
      href: '/promotions',
      name: 'Promotions',
      group: 'Set',
      key: 'y',
      count: store.promotion.size,
      beside: ['/promotion-clashes'],
    },
    { href: '/adjustments', name: 'Adjustments', group: 'Set', key: 'a', count: store.adjustment.size },
    { href: '/settings/store', name: 'Store', group: 'Set', key: 'o' },
    { href: '/quotes', name: 'Quotes', group: 'Sell', key: 'v', counted: '/api/quotes/count', isWork: true },
    { href: '/desk', name: 'Desk', group: 'Sell', key: 'j' },
    { href: '/orders', name: 'Orders', group: 'Sell', key: 'n' },
    { href: '/outbox', name: 'Outbox', group: 'Sell', key: 'z' },
    { href: '/drafts', name: 'Draft and history', group: 'Prove', key: 'h' },
    { href: '/findings', counted: '/api/findings/count', name: 'Findings', group: 'Prove', key: 'f' },
    {
      href: '/proofs',
      name: 'Proofs',
      group: 'Prove',
      key: 'r',
      count: [...store.proof.values()].filter(({ status }) => status === 'active').length,
    },
    { href: '/reports', name: 'Reports', group: 'Prove', key: 'g' },
    { href: '/import', name: 'Import', group: 'Prove', key: 'i' },
    { href: '/staff', name: 'People', group: 'Doors', key: '1' },
    { href: '/programs', name: 'Programs', group: 'Doors', key: '2' },
    { href: '/audit', name: 'Audit', group: 'Doors', key: '3' },
  ]
}
