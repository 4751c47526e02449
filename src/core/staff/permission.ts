/** What somebody of the merchant's may do. Every action, page and address names one of these. */
export const PERMISSIONS = [
  'prices:look',
  'costs:see',
  'drafts:edit',
  'live:edit',
  'drafts:publish',
  'shop:look',
  'orders:look',
  'orders:work',
  'quotes:work',
  'desk:work',
  'mails:look',
  'reports:look',
  'store:export',
  'staff:manage',
  'audit:look',
] as const

export type Permission = (typeof PERMISSIONS)[number]

/** What a permission is worth nothing without: whoever may do the one may do the other. */
const BESIDE: Readonly<Partial<Record<Permission, readonly Permission[]>>> = {
  // What is imported and taken out holds costs.
  'live:edit': ['drafts:edit', 'costs:see'],
  'store:export': ['costs:see'],
  'orders:work': ['orders:look'],
}

export function isPermission(text: unknown): text is Permission {
  return PERMISSIONS.some((each) => each === text)
}

/** All that somebody may do who was given these, each with what it needs beside it, in the order of the list; everybody looks at prices. */
export function withWhatTheyNeed(given: Iterable<Permission>): readonly Permission[] {
  const all = new Set<Permission>(['prices:look'])
  const add = (permission: Permission) => {
    if (all.has(permission)) return
    all.add(permission)
    BESIDE[permission]?.forEach(add)
  }
  for (const each of given) add(each)
  return PERMISSIONS.filter((each) => all.has(each))
}
