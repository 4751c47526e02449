import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import type { ExtraInput } from '@/core/catalogue/parse-catalogue'
import type { PriceFamily } from '@/core/catalogue/price-family'
import { ALWAYS } from '@/core/predicates/when'
import { EVERYWHERE } from '@/core/predicates/where'
import type { AdjustmentInput, ContractInput } from '@/core/price/parse-contract'

export const DEMO_FAMILIES: readonly PriceFamily[] = [
  { id: 'family-beeswax', code: 'beeswax', name: 'Beeswax goods', status: 'active' },
]

export const DEMO_EXTRAS: readonly ExtraInput[] = [
  {
    id: 'extra-assembly',
    code: 'assembly',
    name: 'Assembled and wired',
    scope: {
      include: [{ kind: 'category', category: 'category-frames', descendants: true }],
      exclude: [],
    },
    basePrice: '6.50',
    cost: '3.20',
    ownPrices: { GBP: '5.75' },
    position: 0,
    status: 'active',
  },
  {
    id: 'extra-branding',
    code: 'branding',
    name: 'Your mark burnt in',
    scope: {
      include: [{ kind: 'category', category: 'category-hives', descendants: true }],
      exclude: [],
    },
    basePrice: '9.00',
    cost: '2.40',
    ownPrices: {},
    position: 1,
    status: 'active',
  },
]

export const DEMO_CONTRACTS: readonly ContractInput[] = [
  {
    ...RECORD_DEFAULTS.contract,
    id: 'contract-C-104',
    code: 'C-104',
    name: 'Fennmoor supply 2026/27',
    state: 'active',
    accounts: ['account-fennmoor'],
    groups: [],
    from: '2026-04-01T00:00',
    to: '2027-04-01T00:00',
    lists: ['list-fennmoor-agreed', 'list-bee-farm-wax'],
    rank: 1,
    currency: null,
    policy: null,
    minimumOrder: '250.00',
    paymentTerms: '45 days net',
    isProtected: true,
  },
  {
    ...RECORD_DEFAULTS.contract,
    id: 'contract-C-098',
    code: 'C-098',
    name: 'Bienengut pallets',
    state: 'active',
    accounts: ['account-bienengut'],
    groups: [],
    from: '2026-01-01T00:00',
    to: '2027-01-01T00:00',
    lists: ['list-bienengut-agreed'],
    rank: 1,
    currency: 'EUR',
    policy: 'lowest',
    minimumOrder: '2000.00',
    paymentTerms: '60 days net',
    isProtected: false,
  },
  {
    ...RECORD_DEFAULTS.contract,
    id: 'contract-C-111',
    code: 'C-111',
    name: 'Northern Skep sterling terms',
    state: 'active',
    accounts: ['account-northern-skep'],
    groups: [],
    from: '2026-09-01T00:00',
    to: '2027-09-01T00:00',
    lists: ['list-sterling-trade'],
    rank: 1,
    currency: 'GBP',
    policy: null,
    minimumOrder: null,
    paymentTerms: '30 days net',
    isProtected: false,
  },
  {
    ...RECORD_DEFAULTS.contract,
    id: 'contract-C-115',
    code: 'C-115',
    name: 'Schools framework 2027',
    state: 'draft',
    accounts: [],
    groups: ['group-schools'],
    from: '2027-01-01T00:00',
    to: '2028-01-01T00:00',
    lists: ['list-school-level'],
    rank: 2,
    currency: null,
    policy: null,
    minimumOrder: null,
    paymentTerms: '30 days net',
    isProtected: false,
  },
]

const everyone = { include: [{ kind: 'everyone' as const }], exclude: [] }

export const DEMO_ADJUSTMENTS: readonly AdjustmentInput[] = [
  {
    id: 'adjustment-timber-surcharge',
    code: 'timber-surcharge',
    name: 'Timber surcharge',
    state: 'off',
    status: 'active',
    target: 'base',
    method: { kind: 'percent', percent: '4' },
    rounding: { kind: 'step', step: '0.05', mode: 'half-up' },
    rank: 1,
    audience: everyone,
    scope: { include: [{ kind: 'category', category: 'category-hives', descendants: true }], exclude: [] },
    place: EVERYWHERE,
    schedule: ALWAYS,
  },
  {
    id: 'adjustment-november-week',
    code: 'november-week',
    name: 'November week',
    state: 'on',
    status: 'active',
    target: 'shown',
    method: { kind: 'percent', percent: '-10' },
    rounding: null,
    rank: 2,
    audience: { include: [{ kind: 'guests' }, { kind: 'group', group: 'group-retail' }], exclude: [] },
    scope: { include: [{ kind: 'category', category: 'category-clothing', descendants: true }], exclude: [] },
    place: { include: [{ kind: 'channel', channel: 'channel-web' }], exclude: [] },
    schedule: { ...ALWAYS, from: '2026-11-27T00:00', to: '2026-12-01T00:00' },
  },
]
