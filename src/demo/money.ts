import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import type { CurrencyInput, ExchangeRateInput, RegionInput } from '@/core/places/parse-place'
import type { Channel } from '@/core/places/place'

export const DEMO_CHANNELS: readonly Channel[] = [
  {
    ...RECORD_DEFAULTS.channel,
    id: 'channel-web',
    code: 'web',
    name: 'Web shop',
    groups: ['Online'],
    position: 0,
    status: 'active',
  },
  {
    ...RECORD_DEFAULTS.channel,
    id: 'channel-counter',
    code: 'counter',
    name: 'Trade counter',
    groups: ['Counter'],
    position: 1,
    status: 'active',
  },
]

export const DEMO_CURRENCIES: readonly CurrencyInput[] = [
  {
    id: 'GBP',
    code: 'GBP',
    fee: '1.5',
    rounding: { kind: 'endings', period: '1', endings: ['0.49', '0.99'], mode: 'nearest' },
    priceDigits: 2,
    ageLimit: 45,
    status: 'active',
  },
  {
    id: 'NOK',
    code: 'NOK',
    fee: '2',
    rounding: { kind: 'step', step: '1', mode: 'half-up' },
    priceDigits: 2,
    ageLimit: 45,
    status: 'active',
  },
  {
    id: 'DKK',
    code: 'DKK',
    fee: '1',
    rounding: { kind: 'step', step: '0.50', mode: 'half-up' },
    priceDigits: 2,
    ageLimit: 45,
    status: 'active',
  },
]

/** Invented rates, a month apart, so that the past has its own. */
const RATES: readonly (readonly [currency: string, ...rates: readonly string[]])[] = [
  [
    'GBP',
    '0.848310',
    '0.851920',
    '0.846750',
    '0.853400',
    '0.857110',
    '0.861480',
    '0.859020',
    '0.864730',
    '0.868150',
    '0.871300',
    '0.869840',
  ],
  [
    'NOK',
    '11.6240',
    '11.7015',
    '11.6480',
    '11.5890',
    '11.5120',
    '11.5675',
    '11.6310',
    '11.7045',
    '11.7860',
    '11.8120',
    '11.7530',
  ],
  [
    'DKK',
    '7.45880',
    '7.45910',
    '7.46020',
    '7.45970',
    '7.46050',
    '7.46010',
    '7.45930',
    '7.46080',
    '7.46120',
    '7.46040',
    '7.46090',
  ],
]

export const DEMO_RATES: readonly ExchangeRateInput[] = RATES.flatMap(([currency, ...rates]) =>
  rates.map((rate, month) => ({
    id: `rate-${currency}-${month + 1}`,
    currency,
    per: 'EUR',
    rate,
    from: `2026-${String(month + 1).padStart(2, '0')}-02T08:00:00Z`,
    source: 'manual',
  })),
)

export const DEMO_REGIONS: readonly RegionInput[] = [
  region(
    'home',
    'Ireland and the euro countries',
    ['IE', 'FR', 'DE', 'AT', 'IT', 'NL', 'PT'],
    null,
    'gross',
    0,
  ),
  region('britain', 'Great Britain', ['GB'], 'GBP', 'gross', 1),
  region('nordics', 'Norway', ['NO'], 'NOK', 'gross', 2),
  region('denmark', 'Denmark', ['DK'], 'DKK', 'gross', 3),
  { ...region('elsewhere', 'Everywhere else', [], null, 'net', 4), isDefault: true },
]

function region(
  code: string,
  name: string,
  countries: readonly string[],
  currency: string | null,
  taxDisplay: 'net' | 'gross',
  position: number,
): RegionInput {
  return {
    id: `region-${code}`,
    code,
    name,
    countries,
    currency,
    rounding: null,
    taxDisplay: taxDisplay === 'gross' ? 'both' : taxDisplay,
    cartTaxDisplay: taxDisplay,
    isDefault: false,
    position,
    status: 'active',
  }
}
