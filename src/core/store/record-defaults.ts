import { ALWAYS } from '../predicates/when'
import { EVERYTHING } from '../predicates/what'
import { EVERYWHERE } from '../predicates/where'
import type { RecordKind } from '../issue/issue'
import { decimal } from '../decimal/decimal'
import type { RecordOfKind } from './store'

const amounts = { basePrice: null, cost: null, recommendedPrice: null, floor: null }
const sellable = { ...amounts, weight: null, ownAmounts: {}, family: null, status: 'active' } as const
const active = { status: 'active' } as const

/** Breaks that say nothing of how they count. */
export const BREAK_DEFAULTS = { counting: 'variant', pricing: 'all-units' } as const

/**
 * What a field of a record says where nobody says anything: the same for a new record, for a document written by
 * hand and for one made by a program. A field that is not here has to be said.
 */
export const RECORD_DEFAULTS = {
  settings: {
    id: 'settings',
    name: 'Store',
    priceDigits: 2,
    timeZone: 'UTC',
    country: 'IE',
    taxBasis: 'net',
    policy: 'first',
    neverAbovePublic: false,
    comparedWith: 'nothing',
  },
  currency: { fee: decimal(0), rounding: null, priceDigits: 2, ageLimit: null, ...active },
  'exchange-rate': { source: 'manual' },
  channel: { groups: [], position: 0, ...active },
  region: {
    countries: [],
    currency: null,
    rounding: null,
    taxDisplay: 'gross',
    isDefault: false,
    position: 0,
    ...active,
  },
  category: { parent: null, position: 0, ...active },
  'price-family': active,
  product: {
    description: '',
    picture: 'hive',
    unit: 'each',
    attributes: {},
    axes: [],
    ...sellable,
  },
  variant: { options: {}, position: 0, stock: null, ...sellable },
  extra: { scope: EVERYTHING, basePrice: null, cost: null, ownPrices: {}, position: 0, ...active },
  group: { trade: false, position: 0, ...active },
  account: {
    country: 'IE',
    city: '',
    groups: [],
    tags: [],
    emails: [],
    addresses: [],
    currency: null,
    taxNumber: '',
    paymentTerms: '',
    ...active,
  },
  'price-list': {
    purpose: 'other',
    state: 'on',
    ...active,
    taxBasis: 'net',
    audience: { include: [{ kind: 'everyone' }], exclude: [] },
    scope: EVERYTHING,
    place: EVERYWHERE,
    schedule: ALWAYS,
    rank: 1,
    defaultLine: null,
    rounding: null,
    onlyListed: false,
  },
  'price-line': { position: 0, schedule: null, rounding: null, ...BREAK_DEFAULTS },
  contract: {
    state: 'active',
    accounts: [],
    groups: [],
    from: null,
    to: null,
    lists: [],
    rank: 1,
    currency: null,
    policy: null,
    minimumOrder: null,
    paymentTerms: '',
    isProtected: false,
  },
  adjustment: {
    state: 'on',
    ...active,
    target: 'base',
    rounding: null,
    rank: 1,
    audience: { include: [{ kind: 'everyone' }], exclude: [] },
    scope: EVERYTHING,
    place: EVERYWHERE,
    schedule: ALWAYS,
  },
} as const satisfies { readonly [Kind in RecordKind]: Partial<RecordOfKind[Kind]> }
