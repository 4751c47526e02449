import type { PromotionInput } from '@/core/promotions/parse-promotion'
import type { WhatTerm } from '@/core/predicates/what'
import { ALWAYS } from '@/core/predicates/when'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'

const branch = (code: string): WhatTerm => ({
  kind: 'category',
  category: `category-${code}`,
  descendants: true,
})
const scope = (...codes: readonly string[]) => ({ include: codes.map(branch), exclude: [] })
const money = (amount: string, own: Readonly<Record<string, string>> = {}) => ({ amount, own })

function promotion(
  code: string,
  name: string,
  rank: number,
  value: PromotionInput['value'],
  more: Partial<PromotionInput> = {},
): PromotionInput {
  return {
    ...RECORD_DEFAULTS.promotion,
    state: 'on',
    id: `promotion-${code}`,
    code,
    name,
    rank,
    value,
    ...more,
  }
}

/** What the merchant has planned for the year: some run, some are to come, one is over and one is switched off. */
export const DEMO_PROMOTIONS: readonly PromotionInput[] = [
  promotion(
    'open-day-voucher',
    'Open-day voucher',
    10,
    { kind: 'order', brackets: [{ from: null, saving: { kind: 'percent', percent: '5' } }] },
    {
      conditions: [{ kind: 'code', code: 'OPENDAY' }],
      isAnnounced: false,
      uses: { total: 200, perBuyer: 1, perOrder: null, perDay: null },
    },
  ),
  promotion(
    'frame-mix',
    'Frame and foundation mix',
    20,
    {
      kind: 'set',
      parts: [{ count: 3, scope: null }],
      saving: { kind: 'price', price: money('60', { GBP: '52' }) },
    },
    {
      audience: {
        include: [{ kind: 'everyone' }],
        exclude: [{ kind: 'group', group: 'group-distributors' }],
      },
      scope: scope('frames', 'wax-foundation'),
      schedule: { ...ALWAYS, from: '2027-01-01T00:00', to: '2027-06-01T00:00' },
      conditions: [{ kind: 'value', from: money('40'), of: 'cart' }],
      combines: 'delivery',
      uses: { total: 500, perBuyer: 5, perOrder: null, perDay: null },
    },
  ),
  promotion(
    'foundation-tenth',
    'Ten percent on foundation',
    30,
    { kind: 'item-price', saving: { kind: 'percent', percent: '10' }, closes: true },
    {
      scope: scope('foundation'),
      schedule: { ...ALWAYS, from: '2026-09-01T00:00', to: '2026-11-01T00:00' },
    },
  ),
  promotion(
    'winter-suits',
    'Suits in winter',
    30,
    { kind: 'item-price', saving: { kind: 'percent', percent: '15' }, closes: false },
    {
      scope: { include: [branch('suits')], exclude: [branch('starter-bundles')] },
      schedule: { ...ALWAYS, from: '2026-11-16T00:00', to: '2027-02-01T00:00' },
    },
  ),
  promotion(
    'super-frames-by-five',
    'Super frames in the evening',
    30,
    {
      kind: 'by-quantity',
      from: '5',
      applies: 'all',
      saving: { kind: 'percent', percent: '8' },
    },
    {
      scope: scope('super-frames'),
      place: { include: [{ kind: 'channel', channel: 'channel-web' }], exclude: [] },
      schedule: { ...ALWAYS, weekdays: [1, 2, 3, 4, 5], hours: { from: '17:00', to: '20:00' } },
    },
  ),
  promotion(
    'tools-three-for-two',
    'Three hive tools for two',
    40,
    {
      kind: 'set',
      parts: [{ count: 3, scope: null }],
      saving: { kind: 'cheapest-free', count: 1 },
    },
    { scope: scope('hive-tools') },
  ),
  promotion(
    'jar-thirteenth',
    'The thirteenth jar',
    40,
    {
      kind: 'free-goods',
      brackets: [
        { from: 12, free: 1 },
        { from: 48, free: 5 },
      ],
      gift: 'same',
      repeats: true,
    },
    { scope: scope('jars'), isOffer: true },
  ),
  promotion(
    'spring-delivery',
    'Free delivery in spring',
    60,
    { kind: 'delivery', saving: { kind: 'free' } },
    {
      conditions: [{ kind: 'value', from: money('120'), of: 'cart' }],
      combines: 'delivery',
      schedule: { ...ALWAYS, from: '2027-03-01T00:00', to: '2027-06-01T00:00' },
    },
  ),
  promotion(
    'terms-surcharge',
    'Surcharge for paying later',
    90,
    {
      kind: 'payment',
      payment: 'terms',
      saving: { kind: 'percent', percent: '1.5' },
      isSurcharge: true,
    },
    { state: 'off', isAnnounced: false },
  ),
]
