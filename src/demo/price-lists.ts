import { parseMethodText } from '@/core/price/lines/method-text'
import type { RoundingInput } from '@/core/issue/parse-rounding'
import type { BreaksInput, PriceMethodInput } from '@/core/price/lines/parse-breaks'
import type { Schedule } from '@/core/predicates/when'
import type { WhatTerm } from '@/core/predicates/what'
import type { Who, WhoTerm } from '@/core/predicates/who'
import type { Purpose } from '@/core/price/lines/price-list'

/** What a line is for: `category:jars`, `product:WF-BR`, `sku:FR-BR-PF`, `Fabric=mesh`; and what it does. */
type DemoLine = readonly [
  scope: string | readonly string[],
  /** One rule, or rules from quantities on: `-12%`, `10: -18%`. */
  methods: string | readonly string[],
  rounding?: RoundingInput,
  counting?: BreaksInput['counting'],
  pricing?: BreaksInput['pricing'],
]

interface DemoList {
  readonly code: string
  readonly name: string
  readonly purpose: Purpose
  readonly state?: 'off'
  readonly audience: Who
  readonly rank: number
  readonly otherwise?: string
  readonly currency?: string
  readonly schedule?: Partial<Schedule>
  readonly rounding?: RoundingInput
  readonly lines: readonly DemoLine[]
}

const audience = (...include: WhoTerm[]): Who => ({ include, exclude: [] })
const group = (code: string): WhoTerm => ({ kind: 'group', group: `group-${code}` })
const account = (code: string): WhoTerm => ({ kind: 'account', account: `account-${code}` })

const TO_FIVE_CENTS: RoundingInput = { kind: 'step', step: '0.05', mode: 'half-up' }
const TO_TEN_CENTS: RoundingInput = { kind: 'step', step: '0.10', mode: 'half-up' }
const ENDING_90: RoundingInput = { kind: 'endings', period: '1', endings: ['0.90'], mode: 'nearest' }
const WHOLE_OR_HALF: RoundingInput = { kind: 'endings', period: '1', endings: ['0', '0.50'], mode: 'nearest' }

export const DEMO_LISTS: readonly DemoList[] = [
  {
    code: 'winter-feed',
    name: 'Winter feed offer',
    purpose: 'promotional',
    audience: audience({ kind: 'everyone' }),
    rank: 1,
    rounding: ENDING_90,
    lines: [
      ['category:sugar-feed', '-8%'],
      ['product:HH-OX', '-0.60', TO_FIVE_CENTS],
      ['sku:FD-SY-1300', '1590.00'],
    ],
  },
  {
    code: 'spring-clear-out',
    name: 'Spring clear-out 2026',
    purpose: 'promotional',
    state: 'off',
    audience: audience({ kind: 'everyone' }),
    rank: 2,
    rounding: ENDING_90,
    lines: [
      ['category:suits', '-20%'],
      ['category:smokers', '-15%'],
    ],
  },
  {
    code: 'signed-in-books',
    name: 'Readers with an account',
    purpose: 'other',
    audience: audience({ kind: 'signed-in' }),
    rank: 1,
    rounding: TO_TEN_CENTS,
    lines: [['category:books', '-5%']],
  },
  {
    code: 'club-level',
    name: 'Club level',
    purpose: 'level',
    audience: audience(group('club')),
    rank: 1,
    otherwise: '-10%',
    rounding: TO_FIVE_CENTS,
    lines: [
      ['category:books', '-15%'],
      ['category:livestock', '-3'],
      ['category:extractors', '-5%', WHOLE_OR_HALF],
      ['product:CL-CS', '-20%', ENDING_90],
      ['sku:TL-SM-L', '29.90'],
    ],
  },
  {
    code: 'founders',
    name: 'Founding members',
    purpose: 'other',
    audience: audience({ kind: 'tag', tag: 'founding member' }),
    rank: 1,
    lines: [['category:mated-queens', '39.00']],
  },
  {
    code: 'bee-farm-level',
    name: 'Bee farm level',
    purpose: 'level',
    audience: audience(group('farms')),
    rank: 1,
    otherwise: '-12%',
    rounding: TO_FIVE_CENTS,
    lines: [
      ['category:foundation', ['-14%', '10: -17%', '50: -20%']],
      ['category:jars', '-18%'],
      ['category:extractors', '-8%', WHOLE_OR_HALF],
      ['category:livestock', '-5%'],
      ['category:books', '-5%'],
      ['product:FD-SY', '-14%'],
      ['sku:WF-BR-W100', '112.00'],
      ['sku:FD-SY-1300', '1530.00'],
      ['Fabric=mesh', '-15%'],
      [['sku:HH-ST-50', 'sku:HH-FA-20'], '-16%'],
    ],
  },
  {
    code: 'distributor-level',
    name: 'Distributor level',
    purpose: 'level',
    audience: audience(group('distributors')),
    rank: 1,
    otherwise: '-20%',
    rounding: TO_TEN_CENTS,
    lines: [
      ['category:jars', ['-30%', '12: -32%', '48: -35%'], TO_FIVE_CENTS, 'product'],
      ['category:lids', '-28%', TO_FIVE_CENTS],
      ['category:livestock', '-8%'],
      ['category:clothing', '-24%'],
      ['category:extractors', '-12%', WHOLE_OR_HALF],
      ['sku:WF-BR-O10', '17.60'],
      ['sku:WF-BR-W100', '104.00'],
      ['sku:TL-JT-YL', '12.20'],
    ],
  },
  {
    code: 'school-level',
    name: 'School level',
    purpose: 'level',
    audience: audience(group('schools')),
    rank: 1,
    otherwise: '-5%',
    rounding: TO_TEN_CENTS,
    lines: [
      ['category:books', '-20%'],
      ['category:courses', '-15%', WHOLE_OR_HALF],
      ['product:CL-CS', '-25%', ENDING_90],
      ['product:HV-OBS', '179.00'],
    ],
  },
  {
    code: 'trade-packaging',
    name: 'Trade packaging by the pallet',
    purpose: 'wholesale',
    audience: { include: [{ kind: 'trade' }], exclude: [account('northern-skep')] },
    rank: 2,
    lines: [
      ['sku:PK-JH-110', '11.90'],
      ['sku:PK-JH-280', '7.85'],
      ['sku:PK-JR-340', '7.20'],
      ['sku:PK-JR-454', '7.60'],
    ],
  },
  {
    code: 'fennmoor-agreed',
    name: 'Fennmoor agreed prices',
    purpose: 'contract',
    audience: audience(account('fennmoor')),
    rank: 1,
    rounding: TO_FIVE_CENTS,
    lines: [
      ['category:frames', ['-16.5%', '20: -19%', '100: -22%'], undefined, 'line'],
      ['category:shaped-jars', '-28%'],
      ['sku:WF-BR-W10', ['12.20', '25: 11.80']],
      ['sku:WF-BR-O10', '19.90'],
      ['product:EX-RA', '-15%', WHOLE_OR_HALF],
      ['product:PK-LD', '-22%'],
    ],
  },
  {
    code: 'bienengut-agreed',
    name: 'Bienengut pallet terms',
    purpose: 'contract',
    audience: audience(account('bienengut')),
    rank: 1,
    rounding: TO_TEN_CENTS,
    lines: [
      ['category:packaging', '-34%'],
      ['category:frames-foundation', '-25%'],
      ['product:WF-BR', '-18%'],
    ],
  },
  {
    code: 'organic-growers',
    name: 'Organic growers',
    purpose: 'other',
    audience: audience({ kind: 'tag', tag: 'organic' }),
    rank: 1,
    lines: [
      ['sku:WF-BR-O10', '20.40'],
      ['product:HH-TH', '-18%'],
    ],
  },
  {
    code: 'glenmarra-teaching',
    name: 'Glenmarra teaching apiary',
    purpose: 'contract',
    audience: audience({ kind: 'email', email: 'estate@glenmarra.example' }),
    rank: 1,
    rounding: ENDING_90,
    lines: [
      ['category:hives', '-15%'],
      ['category:clothing', '-18%'],
    ],
  },
  {
    code: 'bee-farm-wax',
    name: 'Wax round for bee farms',
    purpose: 'contract',
    audience: { include: [], exclude: [] },
    rank: 1,
    rounding: TO_FIVE_CENTS,
    lines: [['category:foundation', ['-3% @bee-farm-level', '200: -6% @bee-farm-level']]],
  },
  {
    code: 'sterling-trade',
    name: 'Sterling trade prices',
    purpose: 'contract',
    currency: 'GBP',
    audience: { include: [], exclude: [] },
    rank: 1,
    otherwise: '-22%',
    rounding: TO_TEN_CENTS,
    lines: [
      ['category:livestock', '-8%'],
      ['sku:WF-BR-W10', '9.80'],
      ['sku:WF-BR-O10', ['15.60', '20: 14.90']],
    ],
  },
  {
    code: 'spring-build-up',
    name: 'Spring build-up 2027',
    purpose: 'promotional',
    audience: audience({ kind: 'everyone' }),
    rank: 1,
    rounding: ENDING_90,
    schedule: { from: '2027-03-01T00:00', to: '2027-06-01T00:00' },
    lines: [
      ['category:hives', '-10%'],
      ['category:frames', ['-5%', '10: -12%'], undefined, 'variant', 'graduated'],
    ],
  },
]

/** Rules as they are typed become breaks. Errors  throws `RangeError` for a slip in the demo's own data. */
export function demoBreaks(
  methods: string | readonly string[],
  counting: BreaksInput['counting'] = 'variant',
  pricing: BreaksInput['pricing'] = 'all-units',
): BreaksInput {
  const breaks = [methods].flat().map((text) => {
    const [from, rule] = text.includes(': ') ? text.split(': ') : ['0', text]
    return { from: from ?? '0', method: demoMethod(rule ?? '') }
  })
  return { breaks, counting, pricing }
}

function demoMethod(text: string): PriceMethodInput {
  const method = parseMethodText(text, (code) => `list-${code}`)
  if (!method) throw new RangeError(`the demo has a rule that cannot be read: ${text}`)
  return method
}

export function demoScope(scope: string | readonly string[]): readonly WhatTerm[] {
  return [scope].flat().map((text) => {
    const [name = '', value = ''] = text.split(/[:=]/)
    if (text.includes('=')) return { kind: 'attribute', name, value }
    if (name === 'category') return { kind: 'category', category: `category-${value}`, descendants: true }
    if (name === 'product') return { kind: 'product', product: `product-${value}` }
    return { kind: 'variant', variant: `variant-${value}` }
  })
}
