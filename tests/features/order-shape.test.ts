import { standingOf } from '@/core/order/standing'
import { readEvent, readOrder, STEP } from '@/server/orders/order-shape'
import { orderDocument } from '@tests/fixtures/order-document'
import { decimal } from '@/core/decimal/decimal'

const ORDER = orderDocument([{ variant: 'a', quantity: decimal(2) }])
const stored = (value: unknown): unknown => JSON.parse(JSON.stringify(value))

test('an order is read as it was written', () => {
  expect(readOrder(stored(ORDER))).toEqual(ORDER)
})

test('the first orders said less, and are read all the same', () => {
  const {
    version: _v,
    reference: _r,
    placedBy: _p,
    changeSet: _c,
    paymentCharge: _h,
    promotions: _m,
    ...rest
  } = ORDER
  const [line] = ORDER.lines
  const first = {
    ...rest,
    lines: [
      {
        ...{ variant: 'a', sku: 'A', name: 'Frames', quantity: '2', extras: ['Engraving'] },
        ...{ unit: line?.unit, net: '10', tax: '2', gross: '12' },
      },
    ],
  }
  const read = readOrder(stored(first))
  expect(read).toMatchObject({ version: 2, placedBy: null, promotions: [], paymentCharge: { gross: '0' } })
  expect(read.lines).toEqual([
    {
      ...first.lines[0],
      extras: [{ id: '', name: 'Engraving' }],
      ...{ perUnit: null, before: { net: '10', gross: '12' }, promotions: [], isGift: false },
      ...{
        taxes: [{ name: 'VAT', percent: '20', amount: '2' }],
        base: null,
        cost: null,
        list: null,
        contract: null,
        trace: [],
      },
    },
  ])
  expect(standingOf(read, []).state).toBe('placed')
})

test.each([
  ['nothing', null],
  ['another thing', { version: 2, lines: [] }],
  ['an amount that is none', { ...ORDER, total: { ...ORDER.total, gross: 'much' } }],
  ['a field nobody knows', { ...ORDER, discount: '3' }],
  ['a version to come', { ...ORDER, version: 3 }],
])('refused: %s', (_why, value) => {
  expect(() => readOrder(stored(value))).toThrow('this is no order')
})

test('steps are checked as they come in, and read as they were kept', () => {
  const step = { kind: 'return', parts: [{ line: 0, quantity: '1' }], reason: 'broken', restocks: true }
  expect(STEP.validate(step).error).toBeUndefined()
  for (const wrong of [
    { kind: 'return', parts: [], reason: 'broken' },
    { kind: 'send', parts: [{ line: -1, quantity: '1' }], tracking: '' },
    { kind: 'send', parts: [{ line: 0, quantity: 'a few' }], tracking: '' },
    { kind: 'delete' },
    'confirm',
    null,
  ])
    expect(STEP.validate(wrong, { convert: false }).error).toBeDefined()
  const event = { step, at: 5, author: 'Maeve', document: 7 }
  expect(readEvent(stored(event))).toEqual(event)
  expect(() => readEvent({ ...event, document: 'seven' })).toThrow('no event of an order')
})
