import type { KeyScope } from '@/core/staff/key-scope'
import type { Permission } from '@/core/staff/permission'

/** What each permission lets somebody do, by what it is about, in the order of the places. */
export const PERMISSION_GROUPS: readonly (readonly [title: string, permissions: readonly Permission[]])[] = [
  ['Look', ['prices:look', 'costs:see', 'shop:look', 'reports:look']],
  ['Set', ['drafts:edit', 'live:edit', 'drafts:publish']],
  ['Sell', ['orders:look', 'orders:work', 'quotes:work', 'desk:work', 'mails:look']],
  ['Doors', ['store:export', 'staff:manage', 'audit:look']],
]

const WORDS: Readonly<Record<Permission, string>> = {
  'prices:look': 'Looks at prices, rules, drafts and findings',
  'costs:see': 'Sees costs and margins',
  'shop:look': 'Looks at the shop as a buyer',
  'reports:look': 'Reads reports',
  'drafts:edit': 'Changes prices and rules in drafts',
  'live:edit': 'Changes what is live at once, imports files, counts stock',
  'drafts:publish': 'Publishes drafts, and takes back what was published',
  'orders:look': 'Sees orders and their documents',
  'orders:work': 'Sends, invoices, cancels and refunds orders',
  'quotes:work': 'Answers quotes',
  'desk:work': 'Writes down orders at the desk',
  'mails:look': 'Reads the mails that went out',
  'store:export': 'Takes the whole store out as one document',
  'staff:manage': 'Invites people, changes roles, makes keys',
  'audit:look': 'Reads the audit',
}

export function permissionWords(permission: Permission): string {
  return WORDS[permission]
}

const SCOPE_WORDS: Readonly<Record<KeyScope, string>> = {
  'prices:ask': 'ask prices',
  'costs:see': 'be told costs',
  'store:read': 'read the store document and its changes',
  'store:write': 'replace the store document',
  'measures:read': 'read how the server fares',
}

/** What a program may do with a key of a scope. */
export function scopeWords(scope: KeyScope): string {
  return SCOPE_WORDS[scope]
}
