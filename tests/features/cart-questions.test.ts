import { answerQuestion, type PriceAnswer } from '@/server/exchange/price-questions'
import { prepared } from '@tests/fixtures/demo-request'

const NOW = Date.parse('2027-02-01T10:00:00Z')

/** The demo's frame mix runs then: any three frames for €60, in orders from €40. */
function answered(more: object = {}): PriceAnswer & { promotions: never } {
  const question = {
    id: 'a',
    as: { group: 'retail' },
    lines: [
      { sku: 'FR-BR-PF', quantity: '2' },
      { sku: 'FR-MN-10', quantity: '1' },
    ],
    ...more,
  }
  return answerQuestion(prepared, question, NOW) as never
}

test('a cart question says what each promotion saved, and why every other one did not', () => {
  const answer = answered() as unknown as {
    lines: {
      before: { net: string }
      amount: { net: string }
      promotions: { promotion: string; saving: string }[]
    }[]
    promotions: {
      applied: { promotion: string; saving: string; uses: number }[]
      idle: { promotion: string; because: { code: string } }[]
    }
  }
  expect(answer.promotions.applied).toMatchObject([{ promotion: 'frame-mix', saving: '16.60', uses: 1 }])
  expect(answer.lines.map(({ before, amount }) => [before.net, amount.net])).toEqual([
    ['51.80', '40.57'],
    ['24.80', '19.43'],
  ])
  expect(answer.lines[0]?.promotions).toEqual([{ promotion: 'frame-mix', quantity: '2', saving: '11.23' }])
  const why = Object.fromEntries(
    answer.promotions.idle.map(({ promotion, because }) => [promotion, because.code]),
  )
  expect(why).toMatchObject({
    'open-day-voucher': 'condition',
    'foundation-tenth': 'not-now',
    'tools-three-for-two': 'not-for-cart',
    'terms-surcharge': 'off',
  })
})

test('codes, and offers that are taken', () => {
  const coded = answered({ codes: ['openday'] }) as unknown as {
    promotions: { applied: { promotion: string }[] }
  }
  expect(coded.promotions.applied.map(({ promotion }) => promotion)).toEqual([
    'frame-mix',
    'open-day-voucher',
  ])
  const taken = answered({
    lines: [{ sku: 'PK-JR-340', quantity: '12' }],
    take: ['jar-thirteenth'],
  }) as unknown as { lines: { gift: string | null; quantity: string; amount: { gross: string } }[] }
  expect(taken.lines[1]).toMatchObject({ gift: 'jar-thirteenth', quantity: '1', amount: { gross: '0.00' } })
})

test.each([
  [{ take: ['jar-thirteen'] }, { code: 'unknown-promotion', where: 'take.0', nearest: 'jar-thirteenth' }],
  [{ orders: [{ at: 'yesterday', value: '5' }] }, { code: 'bad-instant', where: 'orders.0.at' }],
  [
    { orders: [{ at: '2027-01-01T00:00:00Z', value: 'much' }] },
    { code: 'bad-amount', where: 'orders.0.value' },
  ],
  [{ payment: 'cash' }, { code: 'malformed', where: 'payment' }],
])('what cannot be read is named: %j', (more, error) => {
  expect(answered(more)).toMatchObject({ id: 'a', error })
})

test('a question for one item says what promotions on prices leave of it, and which', () => {
  const question = { id: 'a', as: { guest: true }, sku: 'CL-JK-2XL' }
  const at = Date.parse('2026-12-01T10:00:00Z')
  const answer = answerQuestion(prepared, question, at) as unknown as {
    unit: { net: string }
    promoted: { unit: { net: string }; was: { net: string }; by: { promotion: string }[] } | null
  }
  expect(answer.promoted?.by.map(({ promotion }) => promotion)).toEqual(['winter-suits'])
  expect(Number(answer.promoted?.unit.net)).toBeCloseTo(Number(answer.unit.net) * 0.85, 1)
  expect(answer.promoted?.was.net).toBe(answer.unit.net)
  const over = answerQuestion(prepared, question, Date.parse('2027-03-01T10:00:00Z'))
  expect(over).toMatchObject({ promoted: null })
  expect(answerQuestion(prepared, { ...question, take: ['no-such'] }, at)).toMatchObject({
    error: { code: 'unknown-promotion', where: 'take.0' },
  })
})
