import type { WhatTerm } from '@/core/predicates/what'
import { ALWAYS } from '@/core/predicates/when'
import type { WhoTerm } from '@/core/predicates/who'
import type { ProofInput } from '@/core/proofs/parse-proof'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'

const account = (code: string): WhoTerm => ({ kind: 'account', account: `account-${code}` })
const group = (code: string): WhoTerm => ({ kind: 'group', group: `group-${code}` })
const branch = (code: string): WhatTerm => ({
  kind: 'category',
  category: `category-${code}`,
  descendants: true,
})
const sku = (text: string): WhatTerm => ({ kind: 'variant', variant: `variant-${text}` })

function proof(
  code: string,
  name: string,
  who: WhoTerm,
  what: WhatTerm,
  claim: ProofInput['claim'],
  more: Partial<ProofInput> = {},
): ProofInput {
  return {
    ...RECORD_DEFAULTS.proof,
    id: `proof-${code}`,
    code,
    name,
    claim,
    audience: { include: [who], exclude: [] },
    scope: { include: [what], exclude: [] },
    ...more,
  }
}

/** What the merchant has promised, and wants to be told of before it is broken. */
export const DEMO_PROOFS: readonly ProofInput[] = [
  proof(
    'fennmoor-frames',
    'Brood frames for Fennmoor',
    account('fennmoor'),
    sku('FR-BR-PF'),
    'price-at-most',
    {
      value: '21.65',
      schedule: { ...ALWAYS, to: '2027-04-01T00:00' },
      reason: 'Promised when contract C-104 was renewed',
    },
  ),
  proof('tarnside-foundation', 'Foundation for Tarnside', account('tarnside'), sku('WF-BR-W10'), 'price-is', {
    value: '11.70',
    quantity: '60',
    reason: 'Promised by phone, 12 November',
  }),
  proof(
    'guests-no-nuclei-price',
    'Nuclei by quote',
    { kind: 'guests' },
    branch('nuclei'),
    'price-never-seen',
  ),
  proof(
    'guests-no-treatments',
    'Treatments by sign-in',
    { kind: 'guests' },
    branch('treatments'),
    'never-bought',
    {
      reason: 'Only registered beekeepers may buy them',
    },
  ),
  proof('schools-books', 'Books for schools', group('schools'), branch('books'), 'always-seen'),
  proof(
    'trade-margin',
    'Trade earns its keep',
    { kind: 'trade' },
    { kind: 'everything' },
    'average-margin-at-least',
    {
      value: '14',
    },
  ),
  proof(
    'club-not-above',
    'Club members never pay more',
    group('club'),
    { kind: 'everything' },
    'not-above-public',
  ),
  proof('books-no-vat', 'Books without VAT', { kind: 'guests' }, branch('books'), 'tax-is', {
    value: '0',
    scope: { include: [branch('books')], exclude: [{ kind: 'product', product: 'product-HV-ST1' }] },
    isBlocking: false,
    reason: 'No tax on printed books',
  }),
]
