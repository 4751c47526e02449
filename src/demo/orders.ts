import type { OrderStepKind } from '@/core/order/order-event'

/** An order of the made-up merchant's buyers, and what was done with it on the days after. */
export interface DemoOrder {
  /** Code of the account. */
  readonly account: string
  /** When it was placed. */
  readonly at: string
  readonly lines: readonly (readonly [sku: string, quantity: number])[]
  /** What was done, a day apart: all of it sent, or the first line only. */
  readonly steps: readonly (Exclude<OrderStepKind, 'return' | 'note'> | 'send-first' | 'return-one')[]
}

const DONE = ['confirm', 'send', 'invoice', 'close'] as const

export const DEMO_ORDERS: readonly DemoOrder[] = [
  order('fennmoor', '2026-09-08T08:10Z', DONE, ['FR-BR-PF', 48], ['WF-BR-W10', 30], ['PK-JR-340', 48]),
  order('tarnside', '2026-09-11T14:30Z', DONE, ['PK-JH-280', 24], ['TL-JT-ST', 2]),
  order('aoife-keane', '2026-09-15T19:05Z', DONE, ['CL-JK-M', 1], ['TL-JT-ST', 2]),
  order('gorseback', '2026-09-21T09:40Z', DONE, ['FR-BR-PF', 20], ['WF-BR-O10', 10]),
  order('st-brans', '2026-09-29T11:15Z', DONE, ['CL-JK-M', 6], ['TL-JT-YL', 6]),
  order('fennmoor', '2026-10-06T07:50Z', DONE, ['PK-JR-340', 96], ['PK-BK-15', 24]),
  order('imkerei-lindental', '2026-10-08T12:20Z', DONE, ['FR-BR-PF', 40], ['TL-JT-ST', 4]),
  order('peadar-flood', '2026-10-14T20:45Z', [...DONE, 'return-one'], ['TL-JT-ST', 3], ['WF-BR-W10', 2]),
  order(
    'nordlyng',
    '2026-10-20T10:00Z',
    ['confirm', 'send', 'invoice'],
    ['PK-JR-340', 48],
    ['PK-JH-280', 48],
  ),
  order(
    'tarnside',
    '2026-10-27T16:25Z',
    ['confirm', 'send-first', 'cancel', 'invoice'],
    ['FR-BR-PF', 24],
    ['QU-MN-PI', 2],
  ),
  order('hollybank', '2026-11-03T09:30Z', ['cancel'], ['CL-JK-M', 4]),
  order(
    'fennmoor',
    '2026-11-05T08:00Z',
    ['confirm', 'send', 'invoice'],
    ['FR-BR-PF', 24],
    ['FR-BR-PA', 10],
    ['TL-JT-ST', 3],
  ),
  order('luc-marchand', '2026-11-11T21:10Z', ['confirm', 'send'], ['PK-JR-340', 12], ['TL-JT-YL', 1]),
  order('gorseback', '2026-11-16T08:35Z', ['confirm', 'send-first'], ['WF-BR-W10', 30], ['QU-MN-PO', 6]),
  order('aoife-keane', '2026-11-19T18:50Z', ['confirm'], ['FR-BR-PF', 4], ['PK-JR-340', 12]),
  order('fennmoor', '2026-11-23T07:45Z', [], ['PK-JR-340', 120], ['PK-BK-15', 12], ['QU-MN-PI', 2]),
]

function order(
  account: string,
  at: string,
  steps: DemoOrder['steps'],
  ...lines: DemoOrder['lines']
): DemoOrder {
  return { account, at, steps, lines }
}
