import type { BuyerReference } from '@/core/buyers/buyer'
import type { Cart, CartQuestion, PastPurchase } from '@/core/cart/cart'
import { paymentTermsOf } from '@/core/cart/payment-terms'
import { priceCart } from '@/core/cart/price-cart'
import { taxDocument } from '@/core/cart/cart-tax'
import { add, decimal, type Decimal, ZERO } from '@/core/decimal/decimal'
import { ask } from '@/core/engine/ask'
import { prepare } from '@/core/engine/prepare'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import { buyerContext } from '@/core/engine/context/buyer-context'
import type { Levy } from '@/core/tax/find-levies'
import { NO_LIMITS } from '@/core/limits/limit'
import { goods, TWO_RATES, writtenPrepared } from '@tests/fixtures/written-store'
import { EVERY_VARIANT, randomQuestion, randomStore } from '@tests/fixtures/random-store'
import fc from 'fast-check'

const AT = Date.parse('2027-03-01T12:00:00Z')
const DAY = 86_400_000
const d = decimal
type Sections = Parameters<typeof writtenPrepared>[0]
type Line = readonly [variant: string, quantity: string]

const settings = (more: object = {}) => ({ taxClass: 'standard', ...more })

function cart(sections: Sections, lines: readonly Line[], more: Partial<CartQuestion> = {}): Cart {
  const prepared = writtenPrepared({ categories: [{ code: 'c', name: 'C' }], ...sections })
  const priced = priceCart(prepared, {
    ...buyerContext({ kind: 'guest' }, AT),
    lines: lines.map(([variant, quantity]) => ({ variant, quantity: d(quantity), extras: [] })),
    past: [],
    ...more,
  })
  if (!priced.ok) throw new Error(priced.error.code)
  return priced.value
}

function levy(id: string, percent: string): Levy {
  const tax = { id, code: id, name: id, upon: [], onDelivery: true, position: 0, status: 'active' as const }
  const rate = {
    ...{ id, tax: id, taxClass: null, country: '', state: '', postcode: '', city: '', reason: '' },
    percent: d(percent),
    from: null,
    to: null,
  }
  return { tax, rate, percent: d(percent) }
}

describe('a document', () => {
  // Source: EN 16931 BR-CO-14, -15, -17 and BR-S-08 on Peppol's base example and own invoices, from memory and
  // recomputed (checks.md E1–E4); the line net amounts, charges and allowances are lines of their own here.
  test.each([
    [
      'E1',
      [
        ['2800', '25'],
        ['-1500', '25'],
        ['25', '25'],
      ],
      [['25', '1325', '331.25']],
      '1656.25',
    ],
    [
      'E2',
      [
        ['106.87', '20'],
        ['61.97', '20'],
        ['10.88', '5.5'],
        ['-10', '20'],
        ['15', '20'],
        ['3.50', '5.5'],
      ],
      [
        ['20', '173.84', '34.77'],
        ['5.5', '14.38', '0.79'],
      ],
      '223.78',
    ],
    [
      'E3',
      [
        ['3.01', '19'],
        ['3.18', '19'],
        ['4.07', '19'],
      ],
      [['19', '10.26', '1.95']],
      '12.21',
    ],
    [
      'E4',
      [
        ['1500', null],
        ['80', '21'],
      ],
      [['21', '80', '16.80']],
      '1596.80',
    ],
  ] as const)('%s: totals by rate', (_id, lines, totals, gross) => {
    const found = taxDocument(
      lines.map(([amount, rate]) => ({
        amount: d(amount),
        basis: 'net' as const,
        levies: rate === null ? [] : [levy(rate, rate)],
      })),
      'document',
      2,
    )
    expect(found.totals.map((total) => [total.levy.percent, total.on, total.amount])).toEqual(
      totals.map((row) => row.map(d)),
    )
    expect(found.lines.reduce((sum, line) => add(sum, line.amount.gross), ZERO)).toBe(d(gross))
    for (const { amount } of found.lines) expect(add(amount.net, amount.tax)).toBe(amount.gross)
  })

  // Source: own amounts, recomputed exactly (checks.md V60–V67).
  test.each([
    ['20', ['0.01', '0.02'], '0', '0.01'],
    ['20', ['0.03', '0.03'], '0.02', '0.01'],
    ['19', ['0.03', '0.03'], '0.02', '0.01'],
    ['8.875', ['0.01', '0.05'], '0', '0.01'],
    ['5', ['0.10', '0.10'], '0.02', '0.01'],
    ['20', ['4.99', '4.99', '4.99'], '3', '2.99'],
    ['7', ['0.99', '1.49', '2.49', '0.79'], '0.40', '0.40'],
    ['20', ['10.02', '10.02', '10.02', '10.02', '10.02'], '10', '10.02'],
  ])('at %s %%, %j: by line %s, on the whole %s', (rate, amounts, byLine, onWhole) => {
    const lines = amounts.map((amount) => ({
      amount: d(amount),
      basis: 'net' as const,
      levies: [levy('t', rate)],
    }))
    const tax = (rounding: 'line' | 'document') => {
      const { totals } = taxDocument(lines, rounding, 2)
      return totals.reduce<Decimal>((sum, total) => add(sum, total.amount), ZERO)
    }
    expect(tax('line')).toBe(d(byLine))
    expect(tax('document')).toBe(d(onWhole))
  })
})

describe('taxes of a cart', () => {
  const shelf = goods(['A', '100', 'c'], ['B', '50', 'c', { taxClass: 'reduced' }])

  // Common practice, no source: classes add up line by line, each levy under its own name.
  test('a 20 % class beside a 10 % class', () => {
    const { taxes, total } = cart({ settings: settings(), ...TWO_RATES, ...shelf }, [
      ['A', '1'],
      ['B', '2'],
    ])
    expect(taxes.map(({ levy: { tax, percent }, on, amount }) => [tax.name, percent, on, amount])).toEqual([
      ['VAT', '20', '100', '20'],
      ['VAT', '10', '100', '10'],
    ])
    expect(total).toEqual({ net: '200', tax: '30', gross: '230' })
  })

  // Source: Directive 2006/112/EC Art. 78(b), own figures (checks.md S1, S2).
  test.each([
    ['10', ['60', '20'], ['40', '5'], '10', '15.4'],
    ['5.95', ['33.33', '19'], ['66.66', '7'], '5.95', '11.65'],
  ] as const)('delivery of %s follows the goods', (price, first, second, net, tax) => {
    const found = cart(
      {
        settings: settings({ deliveryPrice: price, taxRounding: 'document' }),
        ...TWO_RATES,
        taxRates: [
          { id: 's', tax: 'vat', taxClass: 'standard', country: 'IE', percent: first[1] },
          { id: 'r', tax: 'vat', taxClass: 'reduced', country: 'IE', percent: second[1] },
        ],
        ...goods(['A', first[0], 'c'], ['B', second[0], 'c', { taxClass: 'reduced' }]),
      },
      [
        ['A', '1'],
        ['B', '1'],
      ],
    )
    expect(found.delivery.net).toBe(net)
    expect(found.total.tax).toBe(tax)
  })

  test('delivery is free from a value on, and can have a class of its own', () => {
    const sections = (more: object) => ({
      settings: settings({ deliveryPrice: '10', deliveryFreeFrom: '200', ...more }),
      ...TWO_RATES,
      ...shelf,
    })
    expect(cart(sections({}), [['A', '2']]).delivery.gross).toBe('0')
    expect(cart(sections({}), [['A', '1']]).delivery.gross).toBe('12')
    expect(cart(sections({ deliveryTaxClass: 'reduced' }), [['A', '1']]).delivery.gross).toBe('11')
  })

  const elsewhere = { deliverTo: { country: 'DE', state: '', postcode: '', city: '' } }
  test.each([
    ['keep-gross', '100', '15.97', '84.03'],
    ['keep-net', '99.16', '15.83', '83.33'],
  ])('a price of 100 entered with tax, in Germany: %s', (grossElsewhere, gross, tax, net) =>
    expect(
      cart(
        { settings: settings({ taxBasis: 'gross', grossElsewhere }), ...TWO_RATES, ...shelf },
        [['A', '1']],
        elsewhere,
      ).total,
    ).toEqual({ net: d(net), tax: d(tax), gross: d(gross) }),
  )

  test('an exempt account and a business elsewhere in the union pay the net', () => {
    const accounts = [
      { code: 'school', name: 'School', exemption: 'X-1', exemptUntil: '2027-06-01T00:00' },
      { code: 'late', name: 'Late', exemption: 'X-2', exemptUntil: '2027-01-01T00:00' },
      { code: 'firm', name: 'Firm', country: 'DE', taxNumber: 'DE1' },
    ]
    const pay = (account: string) =>
      cart(
        {
          settings: settings({ taxBasis: 'gross', unionCountries: ['IE', 'DE'] }),
          ...TWO_RATES,
          ...shelf,
          accounts,
        },
        [['A', '1']],
        { buyer: { kind: 'account', account } as BuyerReference },
      )
    expect(pay('school')).toMatchObject({
      untaxed: 'certificate',
      total: { net: '83.33', tax: '0', gross: '83.33' },
    })
    expect(pay('late')).toMatchObject({ untaxed: null, total: { gross: '100' } })
    expect(pay('firm')).toMatchObject({ untaxed: 'reverse-charge', total: { tax: '0', gross: '83.33' } })
  })
})

describe('limits of a cart', () => {
  const shelf = (limits: object = {}) =>
    goods(['A', '10', 'c', { weight: '2', ...limits }], ['B', '5', 'c', { weight: '1' }])
  const problems = (sections: Sections, lines: readonly Line[], more?: Partial<CartQuestion>) =>
    cart(sections, lines, more).problems.map((problem) =>
      'problem' in problem
        ? `${problem.kind} ${problem.problem.code} ${problem.nearest.below}–${problem.nearest.above}`
        : problem.kind,
    )
  const rule = (fields: object) => ({ limits: [{ code: 'r', name: 'R', counting: 'together', ...fields }] })

  test('a case of 12 typed 7 offers 12', () =>
    expect(problems(shelf({ limits: { ...NO_LIMITS, multiple: '12' } }), [['A', '7']])).toEqual([
      'quantity not-a-multiple null–12',
    ]))

  test('two lines of one variant are one quantity', () =>
    expect(
      problems(shelf({ limits: { ...NO_LIMITS, maximum: '5' } }), [
        ['A', '3'],
        ['A', '3'],
      ]),
    ).toEqual(['quantity above-maximum 5–null']))

  test('a least of a branch is met by two products together', () => {
    const sections = { ...shelf(), ...rule({ minimum: '10' }) }
    expect(problems(sections, [['A', '4']])).toEqual(['together below-minimum null–10'])
    expect(
      problems(sections, [
        ['A', '4'],
        ['B', '6'],
      ]),
    ).toEqual([])
  })

  test('values and weights of the whole order', () => {
    expect(problems({ ...shelf(), ...rule({ minimumValue: '50' }) }, [['A', '4']])).toEqual([
      'together below-minimum null–50',
    ])
    expect(problems({ ...shelf(), ...rule({ maximumWeight: '5' }) }, [['A', '3']])).toEqual([
      'together above-maximum 5–null',
    ])
  })

  test('at most 2 in 30 days looks back at orders', () => {
    const sections = { ...shelf(), ...rule({ counting: 'each', maximum: '2', days: 30 }) }
    const past = (...purchases: readonly (readonly [variant: string, quantity: string, days: number])[]) => ({
      past: purchases.map(([variant, quantity, days]): PastPurchase => ({
        variant,
        quantity: d(quantity),
        at: AT - days * DAY,
      })),
    })
    expect(problems(sections, [['A', '2']])).toEqual([])
    expect(problems(sections, [['A', '2']], past(['A', '1', 10]))).toEqual(['together above-maximum 1–null'])
    expect(problems(sections, [['A', '1']], past(['A', '2', 29]))).toEqual([
      'together above-maximum null–null',
    ])
    expect(problems(sections, [['A', '2']], past(['A', '2', 30], ['B', '2', 1]))).toEqual([])
  })

  test('a contract asks for a least order, and what may not be bought is told', () => {
    const sections = {
      ...shelf(),
      accounts: [{ code: 'fenn', name: 'Fenn' }],
      contracts: [{ code: 'k', name: 'K', accounts: ['fenn'], minimumOrder: '100' }],
      accessRules: [
        {
          code: 'b',
          name: 'B',
          effect: 'no-buying',
          scope: { include: [{ kind: 'product', product: 'B' }] },
        },
      ],
    }
    expect(
      problems(
        sections,
        [
          ['A', '4'],
          ['B', '1'],
        ],
        { buyer: { kind: 'account', account: 'fenn' } },
      ),
    ).toEqual(['access', 'contract-minimum'])
  })
})

test('a buyer pays on the terms of the first contract that names some, else on the account’s', () => {
  const termsOf = (contracts: readonly object[], account: string) => {
    const prepared = writtenPrepared({
      accounts: [
        { code: 'fenn', name: 'Fenn', paymentTerms: '14 days' },
        { code: 'club', name: 'Club' },
      ],
      contracts: contracts.map((each, at) => ({
        ...{ code: `k${at}`, name: `K ${at}`, accounts: ['fenn'], rank: at + 1 },
        ...each,
      })),
    })
    const opened = openPricingContext(prepared, buyerContext({ kind: 'account', account }, AT))
    return opened.ok && paymentTermsOf(opened.value)
  }
  expect(termsOf([], 'fenn')).toBe('14 days')
  expect(termsOf([{}, { paymentTerms: '30 days' }, { paymentTerms: '60 days' }], 'fenn')).toBe('30 days')
  expect(termsOf([{ paymentTerms: '30 days', to: '2027-02-01T00:00' }], 'fenn')).toBe('14 days')
  expect(termsOf([], 'club')).toBe('')
})

test('a cart of one line is the answer to the same question, and every sum adds up', () => {
  fc.assert(
    fc.property(randomStore, fc.array(randomQuestion, { minLength: 1, maxLength: 4 }), (store, questions) => {
      const prepared = prepare(store)
      const [first] = questions as [(typeof questions)[number]]
      const lines = questions
        .filter((question, at) => questions.findIndex(({ variant }) => variant === question.variant) === at)
        .map(({ variant, quantity, extras }) => ({ variant, quantity, extras }))
      const priced = priceCart(prepared, { ...first, lines, past: [] })
      if (!priced.ok) throw new Error(priced.error.code)
      const { value } = priced
      value.lines.forEach((line, at) => {
        const basket = lines.filter((_, other) => other !== at)
        const asked = ask(prepared, { ...first, ...lines[at]!, basket })
        if (!asked.ok) throw new Error(asked.error.code)
        expect(line.unit).toBe(asked.value.unit)
        expect(line.access.see).toBe(asked.value.see)
        if (line.amount) expect(add(line.amount.net, line.amount.tax)).toBe(line.amount.gross)
      })
      const whole = value.lines.reduce(
        (sum, line) => add(sum, line.amount?.gross ?? ZERO),
        value.delivery.gross,
      )
      expect(whole).toBe(value.total.gross)
      expect(EVERY_VARIANT).toContain(lines[0]?.variant)
    }),
    { numRuns: 120 },
  )
})

describe('stock', () => {
  const stock = new Map([['a', { onHand: d(9), reserved: d(2) }]])
  const sold = (backOrder: boolean, limits: object = {}) =>
    goods(['a', '5', 'c', { backOrder, limits: { ...NO_LIMITS, ...limits } }], ['b', '5', 'c', { backOrder }])
  const asked = (section: Sections, ...lines: readonly Line[]) => cart(section, lines, { stock })

  test.each([
    ['as many as are left', false, {}, [['a', '7']], null],
    ['more, on back order', true, {}, [['a', '8']], null],
    ['more of what nobody counts', false, {}, [['b', '800']], null],
    ['more than are left', false, {}, [['a', '8']], '7'],
    [
      'more on two lines together',
      false,
      {},
      [
        ['a', '4'],
        ['a', '4'],
      ],
      '7',
    ],
    ['more, sold in threes', false, { multiple: '3' }, [['a', '9']], '6'],
    ['more, at least ten at once', false, { minimum: '10' }, [['a', '10']], null],
  ] as const)('%s', (_why, backOrder, limits, lines, below) => {
    const told = asked(sold(backOrder, limits), ...lines).problems
    const isShort =
      !backOrder && lines[0][0] === 'a' && lines.reduce((all, [, each]) => all + Number(each), 0) > 7
    expect(told).toEqual(
      isShort ? [{ kind: 'stock', line: 0, available: '7', nearest: { below, above: null } }] : [],
    )
  })

  test('what is promised to others is not there, and a cart that asks for no stock is told nothing', () => {
    expect(asked(sold(false), ['a', '1']).lines[0]?.stock).toBe('7')
    expect(cart(sold(false), [['a', '100']]).problems).toEqual([])
    const gone = new Map([['a', { onHand: d(2), reserved: d(5) }]])
    expect(cart(sold(false), [['a', '1']], { stock: gone }).problems).toEqual([
      { kind: 'stock', line: 0, available: '0', nearest: { below: null, above: null } },
    ])
  })
})
