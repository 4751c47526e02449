/** What the made-up merchant did during 2026, so that the past can be looked at. Dates are fixed. */
export const DEMO_AUTHOR = 'Orla Tierney'

export const DEMO_SET_UP = { at: new Date('2026-01-12T09:00:00Z'), note: 'Set up the store' }

/** Values before a round of changes, by SKU or product code; the demo's records hold those after it. */
export interface DemoRound {
  readonly at: Date
  readonly note: string
  readonly before: readonly (readonly [code: string, field: 'basePrice' | 'cost', value: string])[]
}

export const DEMO_ROUNDS: readonly DemoRound[] = [
  {
    at: new Date('2026-09-07T08:20:00Z'),
    note: 'New costs from the wax mill and the joinery',
    before: [
      ['FR-BR', 'cost', '12.60'],
      ['FR-BR-PA', 'cost', '20.40'],
      ['FR-BR-CF', 'cost', '24.90'],
      ['FR-BR-CA', 'cost', '33.10'],
      ['WF-BR', 'cost', '8.40'],
      ['WF-BR-O10', 'cost', '15.80'],
      ['WF-SU', 'cost', '5.60'],
    ],
  },
  {
    at: new Date('2026-10-01T07:00:00Z'),
    note: 'Autumn price round',
    before: [
      ['FR-BR', 'basePrice', '24.90'],
      ['FR-BR-PA', 'basePrice', '34.50'],
      ['FR-BR-CF', 'basePrice', '39.50'],
      ['FR-BR-CA', 'basePrice', '49.90'],
      ['WF-BR', 'basePrice', '13.90'],
      ['WF-BR-O10', 'basePrice', '22.50'],
      ['PK-JH-110', 'basePrice', '14.88'],
      ['PK-JH', 'basePrice', '9.84'],
      ['EX-RA', 'basePrice', '475.00'],
    ],
  },
]

/** The list that was only switched on with the cold. */
export const DEMO_LAST_LIST = {
  at: new Date('2026-11-02T07:30:00Z'),
  note: 'Switch on the winter feed offer',
  code: 'winter-feed',
}
