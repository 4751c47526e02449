import { decimal } from '@/core/decimal/decimal'
import {
  money,
  payments,
  type PricedAt,
  promotedCart,
  promotion,
  standing,
} from '@tests/fixtures/promoted-cart'
import { TWO_RATES } from '@tests/fixtures/written-store'

const percent = (value: string) => ({ kind: 'percent', percent: value })
const off = (amount: string) => ({ kind: 'amount', amount: money(amount) })
const priced = (amount: string) => ({ kind: 'price', price: money(amount) })
const itemPrice = (saving: object, closes = false) => ({ kind: 'item-price', saving, closes })
const anySet = (count: number, saving: object) => ({ kind: 'set', parts: [{ count, scope: null }], saving })
const cheapestFree = (count: number) => ({ kind: 'cheapest-free', count })
const order = (...brackets: readonly (readonly [string | null, object])[]) => ({
  kind: 'order',
  brackets: brackets.map(([from, saving]) => ({ from: from === null ? null : money(from), saving })),
})
const only = (...variants: readonly string[]) => ({
  include: variants.map((variant) => ({ kind: 'variant', variant })),
  exclude: [],
})
const each = (...prices: readonly string[]): PricedAt => prices.map((price) => [price, 1])

describe('sets', () => {
  // Source: common practice, no source; checks.md §5.1 (B10–B13, B20–B22, B30–B32) and promotions.md.
  test.each([
    ['three for two of mixed prices', each('7', '5', '4', '3', '2.5', '2'), 3, '6'],
    ['B20', each('9', '7', '5'), 3, '5'],
    ['B21', each('10', '9', '8', '3', '2', '1'), 3, '9'],
    ['B22, the one left over is the cheapest', each('4.99', '12.5', '7.25'), 2, '7.25'],
    ['B11', [['4.99', 3]] as PricedAt, 3, '4.99'],
    ['B12', [['4.99', 5]] as PricedAt, 3, '4.99'],
    ['B13', [['4.99', 7]] as PricedAt, 3, '9.98'],
  ])('the cheapest of each is free: %s', (_, lines, count, saving) => {
    expect(standing(promotedCart(lines, [promotion(anySet(count, cheapestFree(1)))]))).toBe(saving)
  })

  test('a set that is not whole gives nothing, and says how many are missing (B10)', () => {
    const cart = promotedCart([['4.99', 2]], [promotion(anySet(3, cheapestFree(1)))])
    expect(cart.promotions.idle).toEqual([{ promotion: 'offer', because: { code: 'too-few', missing: '1' } }])
    expect(cart.total.gross).toBe('9.98')
  })

  test.each([
    ['the dearest three are taken, the last one stays', each('6', '5', '4', '2'), '10', '5', '12'],
    ['B30', [['3.99', 3]] as PricedAt, '10', '1.97', '10'],
    ['B31', [['3.99', 4]] as PricedAt, '10', '1.97', '13.99'],
    ['B32', [['3.99', 7]] as PricedAt, '10', '3.94', '23.99'],
    [
      'a second set that would cost more than its parts is not formed',
      each('6', '5', '4', '3', '2', '1'),
      '10',
      '5',
      '16',
    ],
  ])('any three at one price: %s', (_, lines, price, saving, total) => {
    const cart = promotedCart(lines, [promotion(anySet(3, priced(price)))])
    expect([standing(cart), cart.total.gross]).toEqual([saving, total])
  })

  // Source: own, checks.md BU1 and BU2; largest remainder, ties to the earlier line.
  test.each([
    [each('59.99', '34.99', '24.95'), '99', ['49.52', '28.88', '20.6']],
    [each('3.99', '3.99', '3.99'), '10', ['3.33', '3.33', '3.34']],
  ])('a saving is spread over the set by what its parts cost', (lines, price, paid) => {
    expect(payments(promotedCart(lines, [promotion(anySet(3, priced(price)))]))).toEqual(paid)
  })

  test('the sets of a whole cart, each spread by itself', () => {
    const lines: PricedAt = [
      ['25.9', 2],
      ['24.8', 1],
      ['23.8', 3],
      ['21.5', 1],
    ]
    const cart = promotedCart(lines, [promotion(anySet(3, priced('60')))])
    // Source: the values of ../look/promotion.png, recomputed by hand.
    expect(payments(cart)).toEqual(['40.57', '19.43', '60', '21.5'])
    const [applied] = cart.promotions.applied
    expect(applied?.sets.map(({ times, amount, saving }) => [times, amount, saving])).toEqual([
      [1, '76.6', '16.6'],
      [1, '71.4', '11.4'],
    ])
    expect(applied?.uses).toBe(2)
  })

  test('one of these and two of those, filled from the dearest down', () => {
    const parts = [
      { count: 1, scope: only('g0', 'g1') },
      { count: 2, scope: only('g1', 'g2', 'g3') },
    ]
    const set = { kind: 'set', parts, saving: percent('50') }
    const cart = promotedCart(each('10', '8', '6', '4'), [promotion(set)])
    // 10 fills the first part, so that 8 and 6 are free for the second.
    expect(standing(cart)).toBe('12')
    expect(payments(cart)).toEqual(['5', '4', '3', '4'])
  })

  test('no more sets than may be used', () => {
    const three = promotion(anySet(2, priced('5')), {
      uses: { total: 10, perBuyer: null, perOrder: 2, perDay: null },
    })
    const lines: PricedAt = [['4', 8]]
    expect(standing(promotedCart(lines, [three]))).toBe('6')
    const used = { offer: { total: 9, byBuyer: 0, today: 0 } }
    expect(standing(promotedCart(lines, [three], { facts: { uses: used } }))).toBe('3')
    const up = { offer: { total: 10, byBuyer: 0, today: 0 } }
    expect(promotedCart(lines, [three], { facts: { uses: up } }).promotions.idle[0]?.because).toEqual({
      code: 'used-up',
      limit: 'total',
    })
  })
})

describe('free goods', () => {
  test('12 + 1 at 6.00: thirteen for 72.00', () => {
    const value = { kind: 'free-goods', brackets: [{ from: 12, free: 1 }], gift: 'same', repeats: true }
    const cart = promotedCart([['6', 12]], [promotion(value)])
    // Source: promotions.md, common practice.
    expect(cart.lines.map(({ quantity, gift, amount }) => [quantity, gift, amount?.gross])).toEqual([
      ['12', null, '72'],
      ['1', 'offer', '0'],
    ])
    expect([cart.total.gross, standing(cart)]).toEqual(['72', '6'])
    expect(promotedCart([['6', 25]], [promotion(value)]).lines[1]?.quantity).toBe('2')
    const once = promotedCart([['6', 25]], [promotion({ ...value, repeats: false })])
    expect(once.lines[1]?.quantity).toBe('1')
  })

  test('another variant, which is shown, priced and there', () => {
    const value = {
      kind: 'free-goods',
      brackets: [
        { from: 2, free: 1 },
        { from: 4, free: 3 },
      ],
      gift: { variant: 'g1' },
      repeats: true,
    }
    const gift = promotion(value, { scope: only('g0') })
    const lines: PricedAt = [
      ['10', 5],
      ['3', 1],
    ]
    const cart = promotedCart(lines, [gift])
    expect(cart.promotions.applied[0]?.gifts).toEqual([{ variant: 'g1', quantity: '3' }])
    expect(payments(cart)).toEqual(['50', '3', '0'])
    const stock = new Map([['g1', { onHand: decimal(5), reserved: decimal(2) }]])
    expect(standing(promotedCart(lines, [gift], { stock }))).toBe('no-gift')
    const accessRules = [{ code: 'no', name: 'No', effect: 'hide', scope: only('g1') }]
    expect(
      standing(
        promotedCart(
          [
            ['10', 5],
            ['3', 1],
          ],
          [gift],
          { sections: { accessRules } },
        ),
      ),
    ).toBe('no-gift')
  })

  test('of those bought the cheapest', () => {
    const value = { kind: 'free-goods', brackets: [{ from: 4, free: 1 }], gift: 'bought', repeats: true }
    expect(standing(promotedCart(each('9', '8', '7', '6', '5'), [promotion(value)]))).toBe('6')
  })

  test('an offer waits until it is taken, and is kept off when it is left', () => {
    const value = { kind: 'free-goods', brackets: [{ from: 2, free: 1 }], gift: 'same', repeats: true }
    const offered = (choice?: 'taken' | 'left') =>
      promotedCart([['6', 2]], [promotion(value, { isOffer: true })], {
        facts: { choices: choice ? { offer: choice } : {} },
      })
    expect(offered().promotions.idle[0]?.because).toEqual({ code: 'offered', saving: '6' })
    expect([standing(offered('left')), offered('left').lines.length]).toEqual(['declined', 1])
    expect([standing(offered('taken')), offered('taken').lines.length]).toEqual(['6', 2])
  })
})

describe('amounts', () => {
  // Source: common practice, no source; checks.md §5.3 (B50–B52: the unit is rounded, as listings show it).
  test.each([
    ['0.99', '20', 3, '2.37'],
    ['1.99', '25', 3, '4.47'],
    ['0.07', '15', 100, '6'],
  ])('an item price is rounded by the unit: %s less %s %%, %d times', (price, less, quantity, total) => {
    const cart = promotedCart([[price, quantity]], [promotion(itemPrice(percent(less)))])
    expect(cart.total.gross).toBe(total)
  })

  // Source: checks.md B15: 50 % of 4.99 is 2.495, which rounds up to a saving of 2.50.
  test('a whole saving is rounded once, half up', () => {
    const value = { kind: 'by-quantity', from: '1', applies: 'all', saving: percent('50') }
    expect(standing(promotedCart([['4.99', 1]], [promotion(value)]))).toBe('2.5')
  })

  // Source: checks.md B42: a price does not fall below zero.
  test('nothing is saved that is not there', () => {
    const cart = promotedCart(
      [['8', 1]],
      [
        promotion(itemPrice(percent('50')), { code: 'half' }),
        promotion(itemPrice(off('5')), { code: 'five', rank: 20 }),
      ],
    )
    expect([standing(cart, 'half'), standing(cart, 'five'), cart.total.gross]).toEqual(['4', '4', '0'])
  })

  // Source: checks.md D3 (10 %, then 5 % of what is left, is 14.5 %), from memory.
  test('one after the other, never added', () => {
    const cart = promotedCart(
      [['100', 1]],
      [
        promotion(itemPrice(percent('10')), { code: 'ten' }),
        promotion(order([null, percent('5')]), { code: 'five' }),
      ],
    )
    expect(cart.total.gross).toBe('85.5')
  })

  // Source: the largest-remainder method; promotions.md's example.
  test('a voucher is spread over the lines to the last cent', () => {
    const cart = promotedCart(each('33.33', '33.33', '33.34'), [promotion(order([null, off('10')]))])
    expect(cart.lines.map(({ discounts }) => discounts[0]?.saving)).toEqual(['3.33', '3.33', '3.34'])
    expect(cart.total.gross).toBe('90')
  })

  test('brackets of an order: the highest reached counts; what is missing is said', () => {
    const value = order(['50', percent('5')], ['100', percent('10')])
    expect(standing(promotedCart(each('60', '39.99'), [promotion(value)]))).toBe('5')
    expect(standing(promotedCart(each('60', '40'), [promotion(value)]))).toBe('10')
    expect(promotedCart(each('48.5'), [promotion(value)]).promotions.idle[0]?.because).toEqual({
      code: 'too-little',
      missing: '1.5',
    })
  })

  test('by quantity: all of them, or those above', () => {
    const value = { kind: 'by-quantity', from: '3', applies: 'all', saving: off('1') }
    expect(
      standing(
        promotedCart(
          [
            ['5', 2],
            ['4', 2],
          ],
          [promotion(value)],
        ),
      ),
    ).toBe('4')
    expect(
      standing(
        promotedCart(
          [
            ['5', 2],
            ['4', 2],
          ],
          [promotion({ ...value, applies: 'above' })],
        ),
      ),
    ).toBe('1')
    expect(standing(promotedCart([['5', 2]], [promotion(value)]))).toBe('too-few')
  })

  test('a fixed price each leaves alone what costs less', () => {
    expect(payments(promotedCart(each('12', '8'), [promotion(itemPrice(priced('9.9')))]))).toEqual([
      '9.9',
      '8',
    ])
  })

  test('nothing is sold below its floor', () => {
    const products = [{ id: 'g0', code: 'g0', name: 'g0', categories: ['c'], basePrice: '10', floor: '8' }]
    const cart = promotedCart([['10', 2]], [promotion(itemPrice(percent('30')))], { sections: { products } })
    expect([cart.total.gross, cart.promotions.applied[0]?.capped]).toEqual(['16', '2'])
  })

  test('in another currency: its own amount, else the converted one', () => {
    const sections = {
      currencies: [{ code: 'USD' }],
      exchangeRates: [{ currency: 'USD', rate: '1.25', from: '2020-01-01T00:00:00Z' }],
    }
    const pays = (own: object) =>
      promotedCart(
        [['100', 1]],
        [promotion(order([null, { kind: 'amount', amount: { amount: '10', own } }]))],
        {
          sections,
          currency: 'USD',
        },
      ).total.gross
    expect([pays({}), pays({ USD: '11' })]).toEqual(['112.5', '114'])
  })
})

describe('which apply', () => {
  const two = (one: object, other: object) => [
    promotion(anySet(2, percent('10')), { code: 'ten', ...one }),
    promotion(anySet(2, percent('20')), { code: 'twenty', ...other }),
  ]

  test('the first by priority; the other says who has its units', () => {
    const cart = promotedCart([['10', 2]], two({ rank: 1 }, { rank: 2 }))
    expect(standing(cart, 'ten')).toBe('2')
    expect(cart.promotions.idle[0]?.because).toEqual({ code: 'used', by: 'ten' })
  })

  test('of equal priority the one that saves more', () => {
    const cart = promotedCart([['10', 2]], two({ rank: 1 }, { rank: 1 }))
    expect([standing(cart, 'ten'), standing(cart, 'twenty')]).toEqual(['used', '4'])
  })

  test('together where both name the same group, each on what the other left', () => {
    const cart = promotedCart(
      [['10', 2]],
      two({ rank: 1, combines: 'spring' }, { rank: 2, combines: 'spring' }),
    )
    expect([standing(cart, 'ten'), standing(cart, 'twenty'), cart.total.gross]).toEqual(['2', '3.6', '14.4'])
  })

  test('an item price keeps no unit from others, unless it says so', () => {
    const sale = (closes: boolean) => [
      promotion(itemPrice(percent('10'), closes), { code: 'sale' }),
      promotion(anySet(2, percent('50')), { code: 'set' }),
    ]
    expect(standing(promotedCart([['10', 2]], sale(false)), 'set')).toBe('9')
    expect(standing(promotedCart([['10', 2]], sale(true)), 'set')).toBe('used')
  })

  test('protected contract lines take part in nothing', () => {
    const sections = {
      accounts: [{ code: 'a', name: 'A', country: 'IE', emails: ['a@a.example'] }],
      priceLists: [{ code: 'l', name: 'L', purpose: 'contract', audience: { include: [], exclude: [] } }],
      priceLines: [
        {
          id: 'l1',
          list: 'l',
          scope: only('g0'),
          breaks: [{ from: '0', method: { kind: 'fixed', amount: '9' } }],
        },
      ],
      contracts: [
        { code: 'k', name: 'K', accounts: ['a'], lists: ['l'], state: 'active', isProtected: true },
      ],
    }
    const cart = promotedCart(each('10', '5'), [promotion(itemPrice(percent('10')), { scope: only('g0') })], {
      sections,
      buyer: { kind: 'account', account: 'a' },
    })
    expect(cart.promotions.idle[0]?.because).toEqual({ code: 'protected', contract: 'k' })
    expect(payments(cart)).toEqual(['9', '5'])
  })
})

describe('conditions', () => {
  const half = (condition: object, more: object = {}) =>
    promotion(order([null, percent('50')]), { conditions: [condition], ...more })
  const why = (condition: object, facts: object = {}, lines: PricedAt = [['10', 2]]) => {
    const [idle] = promotedCart(lines, [half(condition)], { facts }).promotions.idle
    return idle?.because.code === 'condition' ? idle.because.missing : (idle?.because.code ?? 'applied')
  }

  test('value, quantity and orders say what is missing', () => {
    expect(why({ kind: 'value', from: money('25'), of: 'cart' })).toBe('5')
    expect(why({ kind: 'value', from: money('20'), of: 'cart' })).toBe('applied')
    expect(why({ kind: 'quantity', from: '5', of: 'scope' })).toBe('3')
    expect(why({ kind: 'weight', from: '1.5', of: 'cart' })).toBe('1.5')
  })

  test('orders and spend so far, within days or ever; guests have none', () => {
    const AT = Date.parse('2027-03-01T12:00:00Z')
    const pastOrders = [{ at: AT - 40 * 86_400_000, value: decimal('80') }]
    expect(why({ kind: 'orders', from: 1, days: null }, { pastOrders })).toBe('applied')
    expect(why({ kind: 'orders', from: 1, days: 30 }, { pastOrders })).toBe('1')
    expect(why({ kind: 'spend', from: money('100'), days: null }, { pastOrders })).toBe('20')
    expect(why({ kind: 'first-order' }, { pastOrders })).toBeNull()
    expect(why({ kind: 'first-order' }, { pastOrders: [] })).toBe('applied')
    expect(why({ kind: 'first-order' })).toBeNull()
  })

  test('a code in any case; a way of paying', () => {
    expect(why({ kind: 'code', code: 'Swarm10' }, { codes: [' SWARM10 '] })).toBe('applied')
    expect(why({ kind: 'code', code: 'Swarm10' }, { codes: ['swarm'] })).toBeNull()
    expect(why({ kind: 'payment', payment: 'card' }, { payment: 'card' })).toBe('applied')
    expect(why({ kind: 'payment', payment: 'card' })).toBeNull()
  })
})

describe('delivery and payment', () => {
  const delivered = { settings: { deliveryPrice: '8', deliveryTaxClass: null } }

  test.each([
    [{ kind: 'free' }, '0'],
    [percent('25'), '6'],
    [off('3'), '5'],
    [off('30'), '0'],
    [priced('4.5'), '4.5'],
  ])('on delivery: %j', (saving, pays) => {
    const cart = promotedCart([['10', 1]], [promotion({ kind: 'delivery', saving })], { sections: delivered })
    expect([cart.delivery.gross, cart.total.gross]).toEqual([pays, String(10 + Number(pays))])
  })

  test('of two the first, unless they combine', () => {
    const offers = (combines: string) => [
      promotion({ kind: 'delivery', saving: percent('50') }, { code: 'half', rank: 1, combines }),
      promotion({ kind: 'delivery', saving: off('1') }, { code: 'one', rank: 2, combines }),
    ]
    const pays = (combines: string) =>
      promotedCart([['10', 1]], offers(combines), { sections: delivered }).delivery.gross
    expect([pays(''), pays('d')]).toEqual(['4', '3'])
  })

  test('a surcharge or discount for how one pays, taxed as the goods are', () => {
    const value = { kind: 'payment', payment: 'card', saving: percent('2'), isSurcharge: true }
    const sections = {
      settings: { taxClass: 'standard' },
      taxClasses: [{ code: 'standard', name: 'Standard' }],
      taxes: [{ code: 'vat', name: 'VAT' }],
      taxRates: [{ id: 's', tax: 'vat', taxClass: 'standard', country: 'IE', percent: '20' }],
    }
    const paying = (more: object, payment: 'card' | 'terms') =>
      promotedCart([['100', 1]], [promotion({ ...value, ...more })], { facts: { payment }, sections })
    expect(paying({}, 'card').payment).toEqual({ net: '2', tax: '0.4', gross: '2.4' })
    expect(paying({ isSurcharge: false }, 'card').total.gross).toBe('117.6')
    expect(paying({}, 'terms').total.gross).toBe('120')
  })
})

describe('tax', () => {
  // Source: EN 16931 BG-20 (document-level allowances, one for each tax category) and BR-S-08, from memory: a voucher over
  // goods at two rates lowers each rate's taxable amount by its part.
  test('a voucher over two rates lowers what each is charged on', () => {
    const sections = {
      settings: { taxBasis: 'net' },
      ...TWO_RATES,
      products: [
        { id: 'g0', code: 'g0', name: 'g0', categories: ['c'], basePrice: '60', taxClass: 'standard' },
        { id: 'g1', code: 'g1', name: 'g1', categories: ['c'], basePrice: '40', taxClass: 'reduced' },
      ],
    }
    const cart = promotedCart(
      [
        ['60', 1],
        ['40', 1],
      ],
      [promotion(order([null, off('10')]))],
      { sections },
    )
    expect(cart.taxes.map(({ levy, on, amount }) => [levy.percent, on, amount])).toEqual([
      ['20', '54', '10.8'],
      ['10', '36', '3.6'],
    ])
    expect(cart.total).toEqual({ net: '90', tax: '14.4', gross: '104.4' })
  })
})

test('switched off, everything is as before', () => {
  const set = promotion(anySet(2, percent('50')))
  const lines: PricedAt = [
    ['9.99', 3],
    ['5', 2],
  ]
  const { promotions: _, ...off_ } = promotedCart(lines, [{ ...set, state: 'off' }])
  const { promotions: __, ...none } = promotedCart(lines, [])
  expect(off_).toEqual(none)
})
