import { findBySku } from '@/core/catalogue/find-by-code'
import type { Product } from '@/core/catalogue/product'
import { decimal } from '@/core/decimal/decimal'
import { refresh } from '@/core/engine/prepare'
import { applyChanges, type Change } from '@/core/store/store'
import { readAssortment, writeAssortment } from '@/sheet/fields/assortment-text'
import { RECORD_FIELDS } from '@/sheet/fields/record-fields'
import { loadAccess } from '@/features/access/load-access'
import { loadAssortments } from '@/features/access/load-assortments'
import { loadLimits } from '@/features/limits/load-limits'
import { loadTaxes } from '@/features/taxes/load-taxes'
import { readRates, rateRows, writeRates } from '@/features/taxes/rates-text'
import { parseTaxRate } from '@/core/tax/parse-tax'
import { toRequestContext } from '@/server/engine/request-context'
import { lookAs, store } from '@tests/fixtures/demo-request'

describe('rates as a spreadsheet takes them', () => {
  let made = 0
  const newId = () => `new-${(made += 1)}`
  const read = (text: string) => readRates(store, text, newId)

  test('what is copied and pasted again changes nothing but stays the same', () => {
    const pasted = read(writeRates(store))
    if (!pasted.ok) throw new Error(pasted.problems.join())
    expect(pasted.edits).toHaveLength(store['tax-rate'].size)
    for (const { id, after } of pasted.edits) expect(after).toEqual(store['tax-rate'].get(id))
  })

  test('columns in any order; a new place, a changed rate, one taken away, an empty cell left alone', () => {
    const pasted = read('Country\tTax\tReduced\tStandard\nES\tvat\t10\t21 %\nIE\tVAT\t\t24\nDE\tVAT\t-\t')
    if (!pasted.ok) throw new Error(pasted.problems.join())
    const changes = pasted.edits.map(({ id, after }): Change => {
      const parsed = after && parseTaxRate(after)
      if (parsed && !parsed.ok) throw new Error(JSON.stringify(parsed.issues))
      const before = store['tax-rate'].get(id) ?? null
      return { kind: 'tax-rate', id, before, after: parsed ? parsed.value : null }
    })
    const rows = rateRows(applyChanges(store, changes)).filter(({ tax }) => tax === 'vat')
    const percents = (country: string) => rows.find((row) => row.country === country)?.percents
    expect(percents('ES')).toEqual(['', '21', '10', ''])
    expect(percents('IE')).toEqual(['', '24', '13.5', '0'])
    expect(percents('DE')).toEqual(['', '19', '', '7'])
  })

  test.each([
    ['Tax\tLand\nVAT\tIE', 'There is no column “Land”'],
    ['Tax\tCountry\tStandard\nVTA\tIE\t20', 'Line 2: there is no tax “VTA”. Did you mean VAT?'],
    ['Tax\tCountry\tStandard\nVAT\tIE\tlots', 'Line 2: “lots” is not a rate.'],
    ['Tax\tCountry\tFrom\tStandard\nVAT\tIE\tsoon\t20', 'Line 2: “soon” is not a valid date.'],
    ['Tax\tCountry', 'The first line names the columns'],
  ])('%j: %s', (text, problem) => {
    const refused = read(text)
    expect(refused.ok ? '' : refused.problems.join('\n')).toContain(problem)
  })
})

describe('an assortment as text', () => {
  test.each([
    ['nothing but Frames and foundation, Jars, not FR-BR', '27'],
    ['everything but Queens and nuclei, also QU-NU', ''],
    ['nothing but PK-BK-15', ''],
  ])('%s reads and writes the same', (text) => {
    const found = readAssortment(store, text)
    if (!found.ok) throw new Error(found.problem)
    expect(writeAssortment(store, found.value)).toBe(text)
  })

  test('nothing typed is everything; what is not there is told', () => {
    expect(readAssortment(store, '')).toEqual({ ok: true, value: null })
    expect(readAssortment(store, 'nothing but Franes')).toEqual({
      ok: false,
      problem: 'There is no “Franes” here. Did you mean Frames?',
    })
    // As a picker writes it.
    expect(readAssortment(store, 'Frames')).toEqual(readAssortment(store, 'nothing but Frames'))
    expect(readAssortment(store, 'everything, not Frames')).toEqual(
      readAssortment(store, 'everything but Frames'),
    )
  })
})

test('limits are typed as words and read back', () => {
  const field = (name: string) => RECORD_FIELDS.product.find((each) => each.field === name)!
  const product = store.product.get('product-FR-BR')! as never
  const values = field('limits.values').read('6, 12 = one case, 24', product, store)
  if (!values.ok) throw new Error(values.problem)
  expect(values.value).toMatchObject({
    limits: {
      values: [
        { quantity: '6', label: '' },
        { quantity: '12', label: 'one case' },
        { quantity: '24', label: '' },
      ],
      minimum: null,
    },
  })
  expect(field('limits.values').write({ ...(product as object), ...values.value } as never, store)).toBe(
    '6, 12 = one case, 24',
  )
})

test('a rule can be for whoever has a passcode', () => {
  const audience = RECORD_FIELDS['access-rule'].find(({ field }) => field === 'audience')!
  const read = audience.read('passcode Spring open day, not guests', {}, store)
  expect(read).toEqual({
    ok: true,
    value: {
      audience: {
        include: [{ kind: 'passcode', passcode: 'passcode-open-day' }],
        exclude: [{ kind: 'guests' }],
      },
    },
  })
  expect(audience.write(read.ok ? read.value : {}, store)).toBe('passcode Spring open day, not guests')
})

describe('the places', () => {
  const nowhere = { sku: '', country: '', state: '', postcode: '', city: '' }

  test('a tax that is tried says each step, and why nothing', () => {
    const text = (tried: Partial<typeof nowhere>) =>
      loadTaxes(lookAs('guest'), { ...nowhere, ...tried })
        .result?.lines.map(({ parts, outcome }) =>
          `${parts.map((part) => part.text).join(' ')} ${outcome}`.trim(),
        )
        .join('\n')
    expect(text({ sku: 'FR-BR-PF', country: 'US', state: 'CA', city: 'Oakfell' })).toContain(
      'City tax 1.5 % on €25.90 €0.39',
    )
    expect(text({ sku: 'BK-FY-PB', country: 'IE' })).toContain('(class Books)')
    const [, ...misses] = text({ sku: 'FR-BR-PF', country: 'CL' })!.split('\n')
    expect(misses.every((line) => line.includes('does not fall here'))).toBe(true)
    expect(loadTaxes(lookAs('guest'), { ...nowhere, sku: 'FR-BR-PX' }).result?.problem).toContain('FR-BR-PA')
  })

  test('who sees what counts the variants of each branch', async () => {
    const { columns, rows } = await loadAccess(lookAs('account:fennmoor'))
    expect(columns.map(({ name }) => name)).toEqual(expect.arrayContaining(['Fennmoor Honey Farm', 'Guests']))
    const guests = columns.findIndex(({ as }) => as === 'guest')
    const nuclei = rows.find(({ code }) => code === 'nuclei')!.cells[guests]!
    expect(nuclei).toMatchObject({ price: 0, buy: 0, see: nuclei.all, quote: nuclei.all })
    const above = rows.find(({ code }) => code === 'queens')!.cells[guests]!
    expect(above.buy).toBe(above.all - nuclei.all)
  })

  test('an assortment counts what is in; a product in two branches says through which', async () => {
    const view = await loadAssortments(lookAs('guest'), 'contract', 'C-104')
    expect(view).toMatchObject({ start: 'everything', inside: view.all, owner: { code: 'C-104' } })
    expect(view.branches.every(({ inside, all }) => inside === all)).toBe(true)
  })

  test('limits in force follow an edit of a product, which leaves buyer contexts as they were', async () => {
    const look = lookAs('guest')
    const before = await loadLimits(look, '')
    const product = store.product.get(findBySku(store.variant, 'FR-BR-PF')?.product ?? '') as Product
    const after = { ...product, limits: { ...product.limits, maximum: decimal(7) } }
    const changes: readonly Change[] = [{ kind: 'product', id: product.id, before: product, after }]
    const prepared = refresh(look.prepared, applyChanges(store, changes), changes)
    const next = toRequestContext({ ...look.view, prepared }, look.vantage, look.now)
    const { items } = await loadLimits(next, '')
    expect(before.items.some(({ product: code }) => code === product.code)).toBe(false)
    expect(items.find(({ product: code }) => code === product.code)?.cells[1]?.text).toBe('7')
  })

  test('limits in force name the level of each field', async () => {
    const { items, orders } = await loadLimits(lookAs('account:tarnside'), 'PK-BK')
    expect(items[0]?.cells[2]).toEqual({
      text: '12',
      by: 'Buckets by the stack',
      href: '/limits/buckets-by-the-stack',
    })
    expect(orders.map(({ name }) => name)).toContain('Smallest trade order')
  })
})
