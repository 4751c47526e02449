import type { LostReason } from '@/core/quote/quote-event'

/** What was done with a quote of the demo, on the days after. */
export type DemoQuoteStep =
  | {
      readonly kind: 'offer'
      /** What is typed into the price of each line, in their order. */
      readonly prices: readonly string[]
      /** Other quantities than were asked for, by position. */
      readonly quantities?: Readonly<Record<number, string>>
      readonly notes?: Readonly<Record<number, string>>
      readonly delivery?: string
      readonly message: string
      /** Days it stands. */
      readonly days: number
    }
  | { readonly kind: 'answer'; readonly message: string }
  | { readonly kind: 'decline'; readonly reason: LostReason; readonly message: string }
  | { readonly kind: 'refuse'; readonly message: string }
  | { readonly kind: 'accept' }
  | { readonly kind: 'note'; readonly text: string }

/** A quote one of the made-up merchant's buyers asked for. */
export interface DemoQuote {
  /** Code of the account, and the address of the person. */
  readonly account: string
  readonly person?: string
  readonly at: string
  readonly message: string
  readonly neededBy?: string
  readonly lines: readonly (readonly [sku: string, quantity: number, wish?: string])[]
  /** A day apart. */
  readonly steps: readonly DemoQuoteStep[]
}

export const DEMO_QUOTES: readonly DemoQuote[] = [
  {
    account: 'tarnside',
    person: 'eoin@tarnside.example',
    at: '2026-09-28T09:10Z',
    message: 'Forty sets of frames before the winter, if the price is right.',
    lines: [
      ['FR-BR-PF', 40],
      ['WF-BR-W10', 40],
    ],
    steps: [
      { kind: 'offer', prices: ['-4%', '-3%'], message: 'Best I can do at forty.', days: 14 },
      { kind: 'decline', reason: 'price', message: 'We found them a little cheaper.' },
    ],
  },
  {
    account: 'fennmoor',
    person: 'brid@fennmoor.example',
    at: '2026-10-19T08:00Z',
    message: 'Jars for the whole of next season, one delivery.',
    lines: [['PK-JR-340', 240]],
    steps: [
      {
        kind: 'offer',
        prices: ['-5%'],
        delivery: 'together, on pallets',
        message: 'On pallets, as asked.',
        days: 21,
      },
      { kind: 'accept' },
    ],
  },
  {
    account: 'hivewell',
    at: '2026-11-02T10:30Z',
    message: 'Price for a full load of smokers?',
    lines: [['TL-JT-ST', 200, '9.00']],
    steps: [{ kind: 'refuse', message: 'We cannot get as many before March. Ask again then, please.' }],
  },
  {
    account: 'gorseback',
    person: 'orla@gorseback.example',
    at: '2026-11-24T09:14Z',
    neededBy: '2027-05-25',
    message: 'Second apiary at Fanad. If we collect all the nuclei on one day, can you do better?',
    lines: [
      ['QU-NB-PL', 12],
      ['FR-BR-PF', 48, '21.00'],
      ['WF-BR-O10', 60, '19.40'],
      ['WF-BR-W10', 40],
      ['TL-JT-ST', 2],
      ['PK-JR-340', 48],
      ['QU-MN-PI', 12],
    ],
    steps: [
      {
        kind: 'offer',
        prices: ['-4%', '-5%', '-3%', '', '', '-2%', ''],
        quantities: { 0: '10' },
        notes: { 0: 'I can hold 10 of the 12; the other two in June' },
        delivery: 'together, last week of May',
        message: 'Yes for nuclei and frames. I can hold 10 of the 12, two more in June.',
        days: 30,
      },
      { kind: 'answer', message: '10 is fine. Organic sheets at 19.40 would settle it.' },
    ],
  },
  {
    account: 'heatherlaw',
    at: '2026-11-25T15:40Z',
    message: 'What would thirty of each come to?',
    lines: [
      ['FR-BR-PF', 30],
      ['PK-JH-280', 48],
    ],
    steps: [],
  },
]
