import { prepare } from '@/core/engine/prepare'
import { answerQuestions } from '@/server/exchange/price-questions'
import { readDocument } from '@/server/exchange/store-document'

/** The rulings of docs/model.md, each through the store document and a price question, as a program would ask. */

type Fields = Record<string, unknown>
interface Money {
  readonly net: string
  readonly tax: string
  readonly gross: string
}
interface Answered {
  readonly unit: Money | null
  readonly total: Money | null
  readonly was: Money | null
  readonly goods: Money
  readonly problems: readonly Fields[]
  readonly lines: readonly { readonly amount: Money }[]
  readonly untaxed: string | null
  readonly error?: Fields
  readonly trace: { readonly idleAdjustments: readonly Fields[] }
  readonly limits: Fields
  readonly see: boolean
  readonly unitPrice: Fields | null
}

const EVERYBODY = { include: [{ kind: 'everyone' }] }
const MEMBERS = { include: [{ kind: 'group', group: 'trade' }] }
const AT_20 = {
  taxes: [{ code: 'vat', name: 'VAT' }],
  taxRates: [{ id: 'r', tax: 'vat', country: 'IE', percent: '20' }],
}

function storeWith({ settings, items, ...sections }: Fields) {
  const fields = (items ?? [{}]) as readonly Fields[]
  return {
    format: 'steppe-store',
    version: 1,
    settings: { currency: 'EUR', country: 'IE', ...(settings as Fields) },
    channels: [{ code: 'web', name: 'Web' }],
    regions: [{ code: 'all', name: 'All', isDefault: true }],
    categories: [
      { code: 'all', name: 'All' },
      { code: 'inner', name: 'Inner', parent: 'all' },
      { code: 'other', name: 'Other' },
    ],
    groups: [{ code: 'trade', name: 'Trade', trade: true }],
    accounts: [{ code: 'farm', name: 'Farm', groups: ['trade'], ...(sections['account'] as Fields) }],
    products: fields.map((each, at) => ({
      code: `P${at}`,
      name: `P${at}`,
      categories: ['all'],
      basePrice: '10.00',
      ...each,
    })),
    variants: fields.map((_, at) => ({ sku: `P${at}`, product: `P${at}` })),
    ...Object.fromEntries(Object.entries(sections).filter(([name]) => name !== 'account')),
  }
}

function answer(document: Fields, question: Fields): Answered {
  const read = readDocument(storeWith(document))
  if (!read.ok) throw new Error(JSON.stringify(read.errors))
  const asked = { id: 'q', as: { guest: true }, ...('lines' in question ? {} : { sku: 'P0' }), ...question }
  const [first] = answerQuestions(prepare(read.store), [asked], Date.parse('2027-01-15T12:00:00Z')) ?? []
  return first as unknown as Answered
}

function refused(document: Fields): readonly string[] {
  const read = readDocument(storeWith(document))
  return read.ok ? [] : read.errors.map(({ code, where, expected }) => `${where} ${code} ${expected}`)
}

const list = (code: string, fields: Fields): Fields => ({
  code,
  name: code,
  audience: EVERYBODY,
  purpose: 'other',
  ...fields,
})
const fixed = (amount: string) => ({ breaks: [{ from: '0', method: { kind: 'fixed', amount } }] })
const percent = (value: string, reference: Fields = { kind: 'base' }) => ({
  breaks: [{ from: '0', method: { kind: 'percent', percent: value, reference } }],
})

describe('with and without tax never meet as bare numbers', () => {
  test('a list with tax that refers to a base without', () => {
    const priceLists = [list('shelf', { taxBasis: 'gross', defaultLine: percent('-10') })]
    expect(answer({ ...AT_20, priceLists }, {}).unit).toEqual({ net: '9.00', tax: '1.80', gross: '10.80' })
  })

  test('a list without tax that refers to one with', () => {
    const priceLists = [
      list('shelf', {
        taxBasis: 'gross',
        audience: { include: [{ kind: 'group', group: 'trade' }] },
        defaultLine: fixed('11.40'),
      }),
      list('own', { defaultLine: percent('-10', { kind: 'list', list: 'shelf' }) }),
    ]
    expect(answer({ ...AT_20, priceLists }, {}).unit?.net).toBe('8.55')
  })

  test('the lowest of 10.80 with tax and 10.00 without is 10.80', () => {
    const priceLists = [
      list('a', { taxBasis: 'gross', defaultLine: fixed('10.80') }),
      list('b', { defaultLine: fixed('10.00') }),
    ]
    const settings = { policy: 'lowest' }
    expect(answer({ ...AT_20, settings, priceLists }, {}).unit?.gross).toBe('10.80')
  })

  test('never above public compares what is paid', () => {
    const priceLists = [
      list('shelf', {
        taxBasis: 'gross',
        audience: { include: [{ kind: 'guests' }] },
        defaultLine: fixed('11.50'),
      }),
      list('trade', { audience: MEMBERS, defaultLine: fixed('10.25') }),
    ]
    const settings = { neverAbovePublic: true }
    const asked = answer({ ...AT_20, settings, priceLists }, { as: { account: 'farm' } })
    expect(asked.unit?.gross).toBe('11.50')
  })

  test('a floor without tax holds a price with tax', () => {
    const priceLists = [list('sale', { taxBasis: 'gross', defaultLine: fixed('10.80') })]
    expect(answer({ ...AT_20, items: [{ floor: '9.50' }], priceLists }, {}).unit).toEqual({
      net: '9.50',
      tax: '1.90',
      gross: '11.40',
    })
  })

  test('10.00 without tax is what 11.40 with tax is compared with', () => {
    const priceLists = [list('shelf', { taxBasis: 'gross', defaultLine: fixed('11.40') })]
    const settings = { comparedWith: 'base' }
    const { unit, was } = answer({ ...AT_20, settings, priceLists }, {})
    expect([unit?.gross, was?.gross]).toEqual(['11.40', '12.00'])
  })

  test('an extra of 1.00 without tax costs 1.20 beside a price with tax', () => {
    const priceLists = [list('shelf', { taxBasis: 'gross', defaultLine: fixed('11.40') })]
    const extras = [{ code: 'x', name: 'X', basePrice: '1.00' }]
    expect(answer({ ...AT_20, priceLists, extras }, { extras: ['x'] }).unit?.gross).toBe('12.60')
  })

  test('an amount off the price shown has the basis of the store', () => {
    const priceLists = [list('shelf', { taxBasis: 'gross', defaultLine: fixed('11.40') })]
    const adjustments = [
      { code: 'a', name: 'A', target: 'shown', method: { kind: 'amount', amount: '-1.00' }, state: 'on' },
    ]
    expect(answer({ ...AT_20, priceLists, adjustments }, {}).unit?.gross).toBe('10.20')
  })

  test('who is exempt is compared by what an ordinary buyer would pay', () => {
    const priceLists = [
      list('a', { taxBasis: 'gross', defaultLine: fixed('11.00') }),
      list('b', { defaultLine: fixed('9.50') }),
    ]
    const asked = answer(
      { ...AT_20, settings: { policy: 'lowest' }, priceLists, account: { exemption: 'EX' } },
      { as: { account: 'farm' } },
    )
    // 11.00 with 20 % is 9.17 without, which is less than 9.50.
    expect(asked.unit).toEqual({ net: '9.17', tax: '0.00', gross: '9.17' })
  })

  test('a list that does not say its basis has the store’s', () => {
    const priceLists = [list('own', { defaultLine: fixed('12.00') })]
    const asked = answer({ ...AT_20, settings: { taxBasis: 'gross' }, priceLists }, {})
    expect(asked.unit).toEqual({ net: '10.00', tax: '2.00', gross: '12.00' })
  })

  test('keeping the net changes nothing at home', () => {
    const settings = { taxBasis: 'gross', grossElsewhere: 'keep-net' }
    const asked = answer({ ...AT_20, settings, items: [{ basePrice: '9.99' }] }, {})
    expect(asked.unit).toEqual({ net: '8.32', tax: '1.67', gross: '9.99' })
  })
})

describe('graduated totals are exact', () => {
  const brackets = (froms: readonly (readonly [string, string])[]) => ({
    pricing: 'graduated',
    breaks: froms.map(([from, amount]) => ({ from, method: { kind: 'fixed', amount } })),
  })
  const priceLists = [
    list('steps', {
      defaultLine: brackets([
        ['0', '0.10'],
        ['500', '0.09'],
      ]),
    }),
  ]
  const gross = (document: Fields, ...quantities: readonly string[]) =>
    answer(document, { lines: quantities.map((quantity) => ({ sku: 'P0', quantity })) }).goods.net

  test.each([
    ['on one line', ['1000']],
    ['as 999 and 1', ['999', '1']],
    ['in halves', ['500', '500']],
    ['in many', ['300', '300', '300', '99', '1']],
  ])('1000 pieces %s are 94.99', (_, quantities) => {
    expect(gross({ priceLists }, ...quantities)).toBe('94.99')
  })

  test.each([
    ['0', '94.99'],
    ['-10', '85.49'],
  ])('with an adjustment of %s %% after them: %s', (value, expected) => {
    const adjustments = [
      { code: 'a', name: 'A', target: 'shown', state: 'on', method: { kind: 'percent', percent: value } },
    ]
    expect(gross({ priceLists, adjustments }, '1000')).toBe(expected)
  })

  test.each([
    ['0.5', '5.00'],
    ['2', '17.00'],
  ])('%s kg of measured goods, whose brackets end where the next starts: %s', (quantity, expected) => {
    const measured = [
      list('kg', {
        defaultLine: brackets([
          ['0', '10'],
          ['0.5', '8'],
        ]),
      }),
    ]
    expect(gross({ items: [{ unit: 'kg' }], priceLists: measured }, quantity)).toBe(expected)
  })
})

describe('tax', () => {
  const union = { unionCountries: ['IE', 'DE', 'FR'] }
  test.each([
    ['a number of another member, delivered there', 'DE123', 'DE', 'reverse-charge'],
    ['a number of another member, delivered to a third', 'DE123', 'FR', 'reverse-charge'],
    ['a number of the store’s own country', 'IE123', 'DE', null],
    ['delivered at home', 'DE123', 'IE', null],
    ['delivered outside', 'DE123', 'GB', null],
    ['a number of no member', 'GB123', 'DE', null],
  ])('reverse charge: %s', (_, taxNumber, country, expected) => {
    const asked = answer(
      { ...AT_20, settings: union, account: { taxNumber } },
      { as: { account: 'farm' }, deliverTo: { country } },
    )
    expect(asked.untaxed).toBe(expected)
  })

  test('a document sums by levy and percentage, whatever class and rate it came from', () => {
    const asked = answer(
      {
        settings: { taxRounding: 'document' },
        taxClasses: [
          { code: 'a', name: 'A' },
          { code: 'b', name: 'B' },
        ],
        taxes: [{ code: 'vat', name: 'VAT' }],
        taxRates: ['a', 'b'].map((taxClass) => ({
          id: taxClass,
          tax: 'vat',
          taxClass,
          country: 'IE',
          percent: '23',
        })),
        items: [
          { basePrice: '10.02', taxClass: 'a' },
          { basePrice: '5.02', taxClass: 'b' },
        ],
      },
      { lines: [{ sku: 'P0' }, { sku: 'P1' }] },
    )
    expect(asked.goods).toEqual({ net: '15.04', tax: '3.46', gross: '18.50' })
  })

  test('an exact postcode, then the pattern that covers fewer', () => {
    const taxRates = [
      { id: 'a', tax: 'vat', country: 'US', postcode: '941*', percent: '5' },
      { id: 'b', tax: 'vat', country: 'US', postcode: '94000-94999', percent: '6' },
      { id: 'c', tax: 'vat', country: 'US', postcode: '94103', percent: '7' },
    ]
    const at = (postcode: string) =>
      answer({ taxes: AT_20.taxes, taxRates }, { deliverTo: { country: 'US', postcode } }).unit?.tax
    expect(['94103', '94110', '94900'].map(at)).toEqual(['0.70', '0.50', '0.60'])
  })

  test('codes of places in any case; what is none is refused with the nearest', () => {
    const document = {
      taxes: AT_20.taxes,
      taxRates: [{ id: 'r', tax: 'vat', country: 'us', state: 'ca', percent: '8' }],
      regions: [
        { code: 'west', name: 'West', countries: ['us-ca'], currency: 'USD' },
        { code: 'all', name: 'All', isDefault: true },
      ],
      currencies: [{ code: 'USD' }],
      exchangeRates: [{ currency: 'USD', rate: '2', from: '2026-01-01T00:00:00Z' }],
    }
    expect(answer(document, { deliverTo: { country: 'us', state: 'ca' } }).unit).toEqual({
      net: '20.00',
      tax: '1.60',
      gross: '21.60',
    })
    const wrong = (deliverTo: Fields) => answer(document, { deliverTo }).error
    expect(wrong({ country: 'Ireland' })).toMatchObject({ code: 'unknown-country', nearest: 'IE' })
    expect(wrong({ country: 'UK' })).toMatchObject({ nearest: 'GB' })
    expect(wrong({ country: 'US', state: 'Californa' })).toMatchObject({
      code: 'unknown-state',
      nearest: 'CA',
    })
    expect(wrong({ country: 'ZZ' })).toMatchObject({ code: 'unknown-country' })
    expect(refused({ settings: { country: 'Ireland' } })).toEqual(['settings.country unknown IE'])
    expect(
      refused({ taxes: AT_20.taxes, taxRates: [{ id: 'r', tax: 'vat', country: 'XX', percent: '1' }] })[0],
    ).toMatch(/^taxRates\[0\]\.country unknown/)
  })

  test('a cart whose taxes depend on a state that is not said cannot be ordered', () => {
    const document = {
      taxes: AT_20.taxes,
      taxRates: [{ id: 'r', tax: 'vat', country: 'US', state: 'CA', percent: '8' }],
    }
    const problems = (deliverTo: Fields) => answer(document, { lines: [{ sku: 'P0' }], deliverTo }).problems
    expect(problems({ country: 'US' })).toEqual([{ kind: 'place', part: 'state' }])
    expect(problems({ country: 'US', state: 'NY' })).toEqual([])
    expect(problems({ country: 'IE' })).toEqual([])
  })
})

describe('amounts and rates', () => {
  test('decimal places are those of ISO 4217 unless said otherwise', () => {
    const document = {
      currencies: [{ code: 'JPY' }, { code: 'KWD' }],
      exchangeRates: [
        { currency: 'JPY', rate: '164.125', from: '2026-01-01T00:00:00Z' },
        { currency: 'KWD', rate: '0.33217', from: '2026-01-01T00:00:00Z' },
      ],
      items: [{ basePrice: '1' }],
    }
    const net = (currency: string) => answer(document, { currency }).unit?.net
    expect([net('JPY'), net('KWD')]).toEqual(['164', '0.332'])
    expect(refused({ settings: { currency: 'JPY' }, items: [{ basePrice: '10.50' }] })).toEqual([
      'products[0].basePrice too-many-digits 0',
    ])
    expect(refused({ settings: { currency: 'KWD' }, items: [{ basePrice: '10.505' }] })).toEqual([])
  })

  test('a direct rate is used backwards before the way through the store’s currency', () => {
    const document = {
      currencies: [{ code: 'CAD' }, { code: 'USD' }],
      exchangeRates: [
        { currency: 'CAD', rate: '1.5', from: '2026-01-01T00:00:00Z' },
        { currency: 'USD', rate: '1.1', from: '2026-01-01T00:00:00Z' },
        { per: 'USD', currency: 'CAD', rate: '1.376', from: '2026-01-01T00:00:00Z' },
      ],
      priceLists: [list('cad', { currency: 'CAD', defaultLine: fixed('8.00') })],
    }
    // 8 ÷ 1.376; through the euro it would be 8 ÷ 1.5 × 1.1 = 5.87.
    expect(answer(document, { currency: 'USD' }).unit?.net).toBe('5.81')
  })

  test('a rate says its offset, a question a real instant, and a guest is one', () => {
    const currencies = [{ code: 'USD' }]
    const rate = (from: string) =>
      refused({ currencies, exchangeRates: [{ currency: 'USD', rate: '1', from }] })
    expect(rate('2026-03-01T00:00')).toEqual(['exchangeRates[0].from no-instant 2026-03-01T00:00Z'])
    expect(rate('2026-02-30T00:00Z')[0]).toMatch(/no-instant/)
    expect(rate('2026-03-01T01:00+01:00')).toEqual([])
    expect(answer({}, { at: '2027-02-30T00:00:00Z' }).error).toMatchObject({ code: 'bad-instant' })
    expect(answer({}, { as: { guest: false } }).error).toMatchObject({ code: 'malformed', where: 'as.guest' })
  })

  test('amounts beyond fifteen digits of the smallest unit are refused', () => {
    expect(refused({ items: [{ basePrice: '9999999999999.99' }] })).toEqual([])
    expect(refused({ items: [{ basePrice: '99999999999999.99' }] })).toEqual([
      'products[0].basePrice too-large 15',
    ])
    expect(refused({ items: [{ basePrice: '1'.repeat(1000) }] })[0]).toMatch(/basePrice too-large/)
  })

  test.each([
    ['of another currency', { as: { guest: true }, currency: 'IDR' }],
    ['after an adjustment', { as: { account: 'farm' } }],
  ])('a price %s that is too large to be held exactly is no price, and the trace says so', (_, asked) => {
    const document = {
      items: [{ basePrice: '9999999999999.99' }],
      currencies: [{ code: 'IDR' }],
      exchangeRates: [{ currency: 'IDR', rate: '17000', from: '2026-01-01T00:00Z' }],
      adjustments: [
        {
          code: 'more',
          name: 'More',
          state: 'on',
          rank: 1,
          target: 'shown',
          audience: MEMBERS,
          method: { kind: 'percent', percent: '900' },
        },
      ],
    }
    const { unit, trace } = answer(document, asked)
    expect(unit).toBeNull()
    expect(JSON.stringify(trace)).toContain('too-large')
  })

  test('a list that lists an item and leaves it out says that it leaves it out', () => {
    const scope = {
      include: [{ kind: 'everything' }],
      exclude: [{ kind: 'product', product: 'P0' }],
    }
    const priceLists = [list('own', { scope })]
    const line = { list: 'own', scope: { include: [{ kind: 'product', product: 'P0' }] }, ...fixed('8.00') }
    const { trace } = answer({ priceLists, priceLines: [{ id: 'l', ...line }] }, {})
    expect(JSON.stringify(trace)).toContain('excluded-item')
    expect(JSON.stringify(trace)).not.toContain('outside-scope')
  })

  test.each(['base', 'shown'])(
    'an adjustment on the %s price that leaves nothing is left out, and the trace says so',
    (target) => {
      const adjustments = [
        {
          code: 'less',
          name: 'Less',
          state: 'on',
          rank: 1,
          target,
          method: { kind: 'amount', amount: '-10.00' },
        },
        {
          code: 'more',
          name: 'More',
          state: 'on',
          rank: 2,
          target,
          method: { kind: 'percent', percent: '10' },
        },
      ]
      const { unit, trace } = answer({ adjustments }, {})
      expect(unit?.net).toBe('11.00')
      expect(trace.idleAdjustments).toEqual([{ adjustment: 'less', reason: { code: 'nothing-left' } }])
    },
  )

  test.each([
    ['half-down', '2.5', '2'],
    ['half-down', '2.51', '3'],
    ['half-up', '2.5', '3'],
    ['half-even', '2.5', '2'],
    ['half-even', '3.5', '4'],
    ['ceiling', '2.01', '3'],
    ['floor', '2.99', '2'],
    ['up', '2.01', '3'],
    ['down', '2.99', '2'],
  ])('rounding %s: %s is %s', (mode, base, expected) => {
    const rounding = { kind: 'step', step: '1', mode }
    const priceLists = [list('r', { rounding, defaultLine: percent('0') })]
    expect(answer({ items: [{ basePrice: base }], priceLists }, {}).unit?.net).toBe(`${expected}.00`)
  })
})

describe('limits, access and content', () => {
  const limit = (code: string, fields: Fields) => ({ code, name: code, ...fields })

  test('of two limits that say equally much the stricter holds', () => {
    const limits = [
      limit('a', { minimum: '2', maximum: '50' }),
      limit('b', { minimum: '5', maximum: '10' }),
      limit('c', { maximum: '20', rank: 2 }),
    ]
    expect(answer({ limits }, {}).limits).toMatchObject({ minimum: '5', maximum: '10' })
  })

  test('a weight of more than three digits behind the point is compared', () => {
    const limits = [limit('w', { counting: 'together', maximumWeight: '0.1' })]
    const { problems } = answer(
      { items: [{ unit: 'kg', weight: '0.125' }], limits },
      { lines: [{ sku: 'P0', quantity: '1.5' }] },
    )
    expect(problems).toMatchObject([{ kind: 'together', measure: 'weight', has: '0.1875' }])
  })

  test('pieces are sold whole, measured goods in fractions', () => {
    const problems = (unit: string, quantity: string, fields: Fields = {}) =>
      answer({ items: [{ unit, ...fields }] }, { lines: [{ sku: 'P0', quantity }] }).problems
    expect(problems('each', '1.5')).toMatchObject([
      { kind: 'quantity', problem: { code: 'not-whole' }, nearest: { below: '1', above: '2' } },
    ])
    expect(problems('kg', '1.5')).toEqual([])
    expect(
      problems('each', '3', {
        limits: { minimum: null, maximum: null, multiple: '1.5', first: null, values: null },
      }),
    ).toEqual([])
  })

  test('values and a most that leave nothing are refused, also across levels', () => {
    const values = [
      { quantity: '6', label: '' },
      { quantity: '12', label: '' },
    ]
    const none = { minimum: null, maximum: null, multiple: null, first: null, values: null }
    expect(refused({ limits: [limit('a', { values, maximum: '5' })] })[0]).toMatch(/no-value-allowed/)
    expect(
      refused({ items: [{ limits: { ...none, values } }], limits: [limit('b', { maximum: '5' })] })[0],
    ).toMatch(/contradicts/)
    const variants = [{ sku: 'P0', product: 'P0', limits: { ...none, values } }]
    expect(refused({ variants, limits: [limit('b', { maximum: '5' })] })[0]).toMatch(/contradicts/)
    expect(refused({ variants, limits: [limit('b', { maximum: '6' })] })).toEqual([])
    expect(refused({ limits: [limit('a', { values }), limit('b', { maximum: '5' })] })[0]).toMatch(
      /contradicts/,
    )
    expect(refused({ limits: [limit('a', { values }), limit('b', { maximum: '6' })] })).toEqual([])
  })

  test('a milder rule on a broader branch does not show what a stricter one on another branch hides', () => {
    const rule = (code: string, category: string, effect: string, more: Fields = {}) => ({
      code,
      name: code,
      effect,
      scope: { include: [{ kind: 'category', category, descendants: true }] },
      ...more,
    })
    const items = [{ categories: ['inner', 'other'] }]
    // "Other" is nearer than "All", but on another path.
    const accessRules = [rule('hide', 'all', 'hide'), rule('show', 'other', 'show')]
    expect(answer({ items, accessRules }, {}).see).toBe(false)
    const named = {
      code: 'p',
      name: 'p',
      effect: 'no-buying',
      scope: { include: [{ kind: 'product', product: 'P0' }] },
    }
    expect(answer({ items, accessRules: [...accessRules, named] }, {}).see).toBe(true)
    expect(
      answer({ items, accessRules: [rule('hide', 'all', 'hide'), rule('show', 'inner', 'show')] }, {}).see,
    ).toBe(true)
  })

  test.each([
    ['0.454 kg', '9.98', 'kg', '21.98'],
    ['12 × 340 g', '48.00', 'kg', '11.76'],
    ['12x340g', '48.00', 'kg', '11.76'],
    ['2.5 l', '12.90', 'l', '5.16'],
    ['750 ml', '9.00', 'l', '12.00'],
    ['50 m', '20.00', 'm', '0.40'],
    ['2 m2', '5.00', 'm²', '2.50'],
    ['48 pieces', '19.20', 'piece', '0.40'],
  ])('%s for %s is %s at %s (Directive 98/6/EC)', (content, basePrice, per, net) => {
    expect(answer({ items: [{ content, basePrice }] }, {}).unitPrice).toMatchObject({ per, net })
  })

  test('a content that is none is refused', () => {
    expect(refused({ items: [{ content: 'a lot' }] })[0]).toMatch(/content malformed/)
    expect(refused({ items: [{ content: '0 kg' }] })[0]).toMatch(/content malformed/)
  })
})
