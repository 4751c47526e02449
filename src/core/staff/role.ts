import type { What } from '../predicates/what'
import type { Who } from '../predicates/who'
import { type Permission, PERMISSIONS, withWhatTheyNeed } from './permission'

/** Which buyers and which part of the catalogue somebody works with; `null` leaves it open. */
export interface Narrowing {
  /** Accounts they see, with their orders, quotes and prices. */
  readonly who: Who | null
  /** Items whose prices and rules they change. */
  readonly what: What | null
}

/** A set of permissions by name. */
export interface Role extends Narrowing {
  readonly code: string
  readonly name: string
  readonly permissions: readonly Permission[]
}

/** The one nobody can take permissions from: somebody must be able to give them back. */
export const OWNER = 'owner'

const OPEN: Narrowing = { who: null, what: null }

const LOOKING: readonly Permission[] = ['prices:look', 'shop:look', 'orders:look', 'reports:look']

/** What a store begins with; each but the owner's can be changed. */
export const FIRST_ROLES: readonly Role[] = [
  { ...OPEN, code: OWNER, name: 'Owner', permissions: PERMISSIONS },
  {
    ...OPEN,
    code: 'pricing-manager',
    name: 'Pricing manager',
    permissions: withWhatTheyNeed([
      ...LOOKING,
      ...(['costs:see', 'live:edit', 'drafts:publish', 'store:export'] as const),
    ]),
  },
  {
    ...OPEN,
    code: 'pricing-editor',
    name: 'Pricing editor',
    permissions: withWhatTheyNeed(['prices:look', 'shop:look', 'reports:look', 'costs:see', 'drafts:edit']),
  },
  {
    ...OPEN,
    code: 'sales',
    name: 'Sales',
    permissions: withWhatTheyNeed([
      ...LOOKING,
      ...(['costs:see', 'orders:work', 'quotes:work', 'desk:work'] as const),
    ]),
  },
  { ...OPEN, code: 'support', name: 'Support', permissions: withWhatTheyNeed(LOOKING) },
  {
    ...OPEN,
    code: 'viewer',
    name: 'Viewer without costs',
    permissions: withWhatTheyNeed(['prices:look', 'shop:look']),
  },
]
