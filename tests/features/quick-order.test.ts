import { priceCart } from '@/core/cart/price-cart'
import { decimal, multiply, sum } from '@/core/decimal/decimal'
import {
  EMPTY_ROW,
  MOST_ROWS,
  type QuickRow,
  readCells,
  readPasted,
  withNext,
  withRows,
} from '@/features/shop/quick/quick-rows'
import { resolveRows } from '@/features/shop/quick/resolve-rows'
import { prepared, store, visitAs } from '@tests/fixtures/demo-request'

const row = (sku: string, quantity: string | number): QuickRow => ({ sku, quantity: String(quantity) })

describe('what is pasted', () => {
  test.each([
    ['a space', 'FR-BR-PF 20', [row('FR-BR-PF', 20)]],
    ['a semicolon', 'FR-BR-PF;20', [row('FR-BR-PF', 20)]],
    ['a comma and a space', 'FR-BR-PF, 20', [row('FR-BR-PF', 20)]],
    ['a tab, as from a spreadsheet', 'FR-BR-PF\t1.5', [row('FR-BR-PF', '1.5')]],
    ['no quantity is one', 'FR-BR-PF', [row('FR-BR-PF', 1)]],
    ['what is no quantity stays to be mended', 'FR-BR-PF twelve', [row('FR-BR-PF', 'twelve')]],
    ['more columns are passed over', 'FR-BR-PF\t20\tBrood frames\t21.00', [row('FR-BR-PF', 20)]],
    ['empty lines and carriage returns', '\r\n A 1 \r\n\r\nB 2\r\n', [row('A', 1), row('B', 2)]],
    ['headings', 'SKU\tQuantity\nA\t1', [row('A', 1)]],
    ['nothing', ' \n ', []],
  ])('%s', (_why, text, rows) => {
    expect(readPasted(text)).toEqual(rows)
  })

  test('the columns of a file are known by their names, else by their place', () => {
    const rows = [
      ['Frames', '20', 'A'],
      ['Jars', '', 'B'],
      ['', '', ''],
    ]
    expect(readCells(['Name', 'Qty', 'Item no.'], rows)).toEqual([row('A', 20), row('B', 1)])
    expect(readCells(['A', '3'], [['B', '4']])).toEqual([row('A', 3), row('B', 4)])
  })

  test('rows come in where they were pasted, before one that is empty', () => {
    const rows = [row('A', 1), row('', ''), row('C', 3), EMPTY_ROW]
    expect(withRows(rows, 1, [row('X', 8), row('Y', 9)])).toEqual([
      row('A', 1),
      row('X', 8),
      row('Y', 9),
      row('C', 3),
      EMPTY_ROW,
    ])
    expect(withNext([])).toEqual([EMPTY_ROW])
    expect(readPasted('A 1\n'.repeat(MOST_ROWS + 50))).toHaveLength(MOST_ROWS)
  })
})

describe('what rows come to', () => {
  const farm = visitAs('account:fennmoor')
  const stock = new Map([
    ['variant-QU-RK', { onHand: decimal(5), reserved: decimal(2) }],
    ['variant-QU-MN-PI', { onHand: decimal(3), reserved: decimal(0) }],
  ])
  const resolve = (rows: readonly QuickRow[], visitor = farm) => resolveRows(visitor, rows, { stock })

  test('five kinds of wrong line, each with what would do, and the others ready', () => {
    const order = resolve([
      row('fr-br-pf', 20),
      row('FR-BR-PX', 10),
      row('PK-BK-15', 30),
      row('QU-RK', 4),
      row('TL-JT-ST', 'three'),
      row('FR-BR', 2),
      EMPTY_ROW,
      row('QU-MN-PI', 9),
    ])
    expect(order.rows.map(({ kind }) => kind)).toEqual([
      'ready',
      'unknown',
      'wrong',
      'wrong',
      'wrong',
      'unknown',
      'empty',
      'ready',
    ])
    const [frames, typo, buckets, kit, words, product] = order.rows
    expect(frames).toMatchObject({
      sku: 'FR-BR-PF',
      name: 'Brood frames, Pine, flat-packed, 10',
      picture: 'frame',
    })
    expect(typo).toMatchObject({
      near: expect.arrayContaining([expect.objectContaining({ sku: 'FR-BR-PF' })]),
    })
    expect(buckets).toMatchObject({
      problem: 'Buckets come in stacks of 12. You have 30.',
      fixes: ['24', '36'],
    })
    // Five are there, two promised to others, and no more is taken on back order.
    expect(kit).toMatchObject({ problem: 'Only 3 are left. You have 4.', fixes: ['3'] })
    expect(words).toMatchObject({ problem: '“three” is not a quantity above zero.', fixes: [] })
    // A product's code is often taken for a SKU.
    expect(product).toMatchObject({
      near: [{ sku: 'FR-BR-PF' }, { sku: 'FR-BR-PA' }, { sku: expect.any(String) }],
    })
  })

  test('ready rows come to what a cart of them comes to, and a break says from how many on', () => {
    const rows = [row('FR-BR-PF', 20), row('PK-JR-340', 24), row('FR-BR-PF', 5), row('NOTHING', 1)]
    const order = resolve(rows)
    const lines = [
      ['FR-BR-PF', 20],
      ['PK-JR-340', 24],
      ['FR-BR-PF', 5],
    ].map(([sku, quantity]) => ({
      variant: `variant-${sku}`,
      quantity: decimal(quantity as number),
      extras: [],
    }))
    const cart = priceCart(prepared, { ...farm.buyerContext, lines, past: [], promotions: null })
    if (!cart.ok) throw new Error(cart.error.code)
    expect(order.total).toBe(cart.value.goods.net)
    const ready = order.rows.flatMap((each) => (each.kind === 'ready' ? [each] : []))
    expect(sum(ready.flatMap(({ total }) => (total === null ? [] : [total])))).toBe(order.total)
    // Twenty-five together are beyond the first break of frames.
    expect(ready[0]?.unit).toBe(ready[2]?.unit)
    expect(ready[0]?.note).toMatch(/^your price from \d+ on; fewer are \d/)
    expect(ready[0]?.total).toBe(multiply(ready[0]?.unit ?? decimal(0), decimal(20)))
  })

  test('what is hidden from a buyer is as if it were not there, and is never what may be meant', () => {
    // Some of the demo is kept from somebody who is not Fennmoor.
    for (const as of ['guest', 'account:fennmoor', 'account:tarnside'] as const) {
      const visitor = visitAs(as)
      const skus = [...store.variant.values()].map(({ sku }) => sku)
      const shown = new Set<string>()
      for (let from = 0; from < skus.length; from += MOST_ROWS) {
        const part = skus.slice(from, from + MOST_ROWS)
        resolve(
          part.map((sku) => row(sku, 12)),
          visitor,
        ).rows.forEach((each, at) => {
          if (each.kind !== 'unknown') shown.add(part[at] as string)
        })
      }
      const typos = skus.filter((sku) => !shown.has(sku)).slice(0, 15)
      for (const each of resolve(
        [...typos, ...typos.map((sku) => `${sku}X`)].map((sku) => row(sku, 1)),
        visitor,
      ).rows) {
        expect(each.kind).toBe('unknown')
        if (each.kind === 'unknown') for (const { sku } of each.near) expect(shown.has(sku)).toBe(true)
      }
    }
  })
})
