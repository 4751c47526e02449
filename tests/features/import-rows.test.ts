import { applyChanges, type Change, type Store } from '@/core/store/store'
import { parseContext } from '@/server/changes/weigh'
import { guessMatching } from '@/server/imports/import-field'
import { lineFields } from '@/server/imports/lines/line-fields'
import { productFields } from '@/server/imports/products/product-fields'
import { productsFile } from '@/server/imports/products/products-file'
import { readLines } from '@/server/imports/lines/read-lines'
import { readProducts } from '@/server/imports/products/read-products'
import { readTable } from '@/server/imports/read-table'
import { effectsText, problemSentence } from '@/features/imports/row-sentence'
import type { ImportReading } from '@/server/imports/reading'
import { resolveValue } from '@/core/catalogue/product'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { breaksText } from '@/core/price/lines/breaks-text'
import { storeOf } from '@tests/fixtures/random-store'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import { type StockLevels, UNCOUNTED } from '@/core/catalogue/stock'
import { decimal, ZERO } from '@/core/decimal/decimal'
import { demoCounts } from '@/demo/demo-store'
import { store as demo } from '@tests/fixtures/demo-request'

interface Options {
  readonly store?: Store
  readonly leftOut?: readonly number[]
  readonly list?: string
  readonly stock?: StockLevels
}

const demoLevels = (): StockLevels =>
  new Map(demoCounts().map(({ variant, counted }) => [variant, { onHand: counted, reserved: ZERO }]))

async function inputOf(
  text: string,
  fields: (header: readonly string[]) => Parameters<typeof guessMatching>[1],
  options: Options,
) {
  const { store = small(), leftOut = [] } = options
  const read = await readTable(new TextEncoder().encode(text))
  if (!read.ok) throw new Error(read.problem.code)
  let ids = 0
  return {
    store,
    context: parseContext(store),
    table: read.table,
    matching: guessMatching(read.table.header, fields(read.table.header)),
    mark: 'point' as const,
    leftOut: new Set(leftOut),
    stock: options.stock ?? UNCOUNTED,
    newId: () => `new-${(ids += 1)}`,
    pause: () => Promise.resolve(),
  }
}

async function products(text: string, options: Options = {}) {
  const store = options.store ?? small()
  return after(
    store,
    await readProducts(await inputOf(text, (header) => productFields(store, header), options)),
  )
}

async function lines(text: string, options: Options = {}) {
  const store = options.store ?? small()
  const list = options.list === undefined ? null : findByCode(store['price-list'], options.list)
  const input = await inputOf(text, () => lineFields(store), options)
  return after(store, await readLines({ ...input, list }))
}

function after(store: Store, reading: ImportReading) {
  const changes = reading.drafts.map(
    (draft) => ({ ...draft, before: store[draft.kind].get(draft.id) ?? null }) as unknown as Change,
  )
  return { ...reading, store: applyChanges(store, changes) }
}

const taxClass = (code: string, name: string) => ({ ...RECORD_DEFAULTS['tax-class'], id: code, code, name })
const results = ({ outcomes }: ImportReading) => outcomes.map(({ result }) => result)
const codes = ({ outcomes }: ImportReading) =>
  outcomes.map(({ problems }) => problems.map(({ code }) => code))

/** Two products: a frame that comes in two sizes, and a smoker. */
function small(): Store {
  const product = { ...RECORD_DEFAULTS.product, categories: ['frames'] }
  const variant = RECORD_DEFAULTS.variant
  return storeOf({
    settings: [{ ...RECORD_DEFAULTS.settings, currency: 'EUR' }],
    currency: [{ ...RECORD_DEFAULTS.currency, id: 'GBP', code: 'GBP' }],
    category: [
      { ...RECORD_DEFAULTS.category, id: 'hives', code: 'hives', name: 'Hives' },
      { ...RECORD_DEFAULTS.category, id: 'frames', code: 'frames', name: 'Frames', parent: 'hives' },
    ],
    'price-family': [{ ...RECORD_DEFAULTS['price-family'], id: 'wood', code: 'wood', name: 'Pine wood' }],
    product: [
      { ...product, id: 'frame', code: 'FR', name: 'Frame', axes: ['Size'], basePrice: decimal('2.00') },
      {
        ...product,
        id: 'smoker',
        code: 'SMK',
        name: 'Smoker',
        basePrice: decimal('30.00'),
        cost: decimal('12'),
      },
    ],
    variant: [
      { ...variant, id: 'deep', sku: 'FR-DEEP', product: 'frame', options: { Size: 'deep' } },
      {
        ...variant,
        id: 'shallow',
        sku: 'FR-SHALLOW',
        product: 'frame',
        options: { Size: 'shallow' },
        basePrice: decimal('1.80'),
        position: 1,
      },
      { ...variant, id: 'smk', sku: 'SMK', product: 'smoker' },
    ],
    'price-list': [list('level', 'Level'), list('club', 'Club')],
    'price-line': [
      {
        ...RECORD_DEFAULTS['price-line'],
        id: 'l1',
        list: 'level',
        scope: {
          include: [
            { kind: 'variant', variant: 'deep' },
            { kind: 'variant', variant: 'shallow' },
          ],
          exclude: [],
        },
        breaks: [{ from: decimal(0), method: { kind: 'fixed', amount: decimal('1.50') } }],
      },
      {
        ...RECORD_DEFAULTS['price-line'],
        id: 'l2',
        list: 'level',
        position: 1,
        scope: { include: [{ kind: 'variant', variant: 'smk' }], exclude: [] },
        breaks: [{ from: decimal(0), method: { kind: 'fixed', amount: decimal('27') } }],
      },
    ],
  } as never)
}

function list(id: string, name: string) {
  return { ...RECORD_DEFAULTS['price-list'], id, code: id, name, currency: 'EUR' }
}

const valueOf = (store: Store, sku: string, field: 'basePrice' | 'cost') => {
  const variant = findBySku(store.variant, sku)
  const product = variant && store.product.get(variant.product)
  return variant && product ? resolveValue(product, variant, field) : null
}

describe('a file of products', () => {
  test('of the store itself changes nothing', async () => {
    const reading = await products(productsFile(demo, demoLevels()), { store: demo, stock: demoLevels() })
    expect(reading.counts).toEqual([])
    expect(new Set(results(reading))).toEqual(new Set(['unchanged']))
    expect(reading.drafts).toEqual([])
  })

  test('sets a value where it belongs: on the product of a single variant, on the variant beside others', async () => {
    const { store, outcomes } = await products('SKU,Price\nSMK,32\nFR-DEEP,2.10\nFR-SHALLOW,1.80\n')
    expect(valueOf(store, 'SMK', 'basePrice')).toEqual({ value: '32', from: 'product' })
    expect(valueOf(store, 'FR-DEEP', 'basePrice')).toEqual({ value: '2.1', from: 'variant' })
    expect(outcomes.map(({ result, effects }) => [result, effects])).toEqual([
      ['changed', [{ field: 'Base price', before: '30', after: '32', digits: 2 }]],
      ['changed', [{ field: 'Base price', before: '2', after: '2.1', digits: 2 }]],
      ['unchanged', []],
    ])
  })

  test('a value a variant takes over already stays taken over', async () => {
    const { drafts } = await products('SKU,Price\nFR-DEEP,2.00\n')
    expect(drafts).toEqual([])
  })

  test('empty cells leave a field, none empties it', async () => {
    const { store } = await products('SKU,Price,Cost\nSMK,,none\n')
    expect(valueOf(store, 'SMK', 'cost')?.value).toBeNull()
    expect(valueOf(store, 'SMK', 'basePrice')?.value).toBe('30')
  })

  test('rows with one product code are variants of a new product, which takes over what they agree on', async () => {
    const reading = await products(
      'SKU,Product code,Name,Category,Size,Price,Cost\nV-S,VEIL,Veil,Clothing > Veils,S,20,7\nV-L,VEIL,,,L,22,7\n',
    )
    expect(results(reading)).toEqual(['new', 'new'])
    const product = findByCode(reading.store.product, 'VEIL')
    expect(product).toMatchObject({ name: 'Veil', axes: ['Size'], cost: '7', basePrice: null })
    expect(valueOf(reading.store, 'V-L', 'basePrice')).toEqual({ value: '22', from: 'variant' })
    expect(findBySku(reading.store.variant, 'V-L')?.options).toEqual({ Size: 'L' })
  })

  test('makes the categories of a way once, and finds existing ones by way, name or code', async () => {
    const reading = await products(
      'SKU,Name,Category\nA,A,Clothing > Veils\nB,B,clothing/VEILS; Frames\nC,C,Hives > Frames\nD,D,frames\n',
    )
    expect(reading.branches.map(({ path }) => path)).toEqual(['Clothing', 'Clothing > Veils'])
    const filed = ['A', 'B', 'C', 'D'].map((code) => findByCode(reading.store.product, code)?.categories)
    expect(filed[1]).toEqual([filed[0]?.[0], 'frames'])
    expect(filed[2]).toEqual(['frames'])
    expect(filed[3]).toEqual(['frames'])
    const veils = reading.store.category.get(filed[0]?.[0] as string)
    expect(reading.store.category.get(veils?.parent as string)?.name).toBe('Clothing')
  })

  test('makes no category for a row that is refused', async () => {
    const reading = await products(
      'SKU,Product code,Name,Category,Size\nX,FR,,Nowhere > Else,deep\nY,,New,Nowhere > Else,\nY,,New,Gone,\n',
    )
    expect(results(reading)).toEqual(['wrong', 'new', 'wrong'])
    expect(reading.branches.map(({ path }) => path)).toEqual(['Nowhere', 'Nowhere > Else'])
    const refused = await products('SKU,Product code,Category,Size\nX,FR,Nowhere > Else,deep\n')
    expect([refused.drafts, refused.branches]).toEqual([[], []])
  })

  test('says when a new category is called much like one that exists', async () => {
    const { branches } = await products('SKU,Name,Category\nA,A,Hives > Frame\n')
    expect(branches).toEqual([{ path: 'Hives > Frame', nearest: 'Frames' }])
  })

  test('a row left out changes nothing', async () => {
    const reading = await products('SKU,Price\nSMK,32\nFR-DEEP,2.10\n', { leftOut: [2] })
    expect(results(reading)).toEqual(['left-out', 'changed'])
    expect(valueOf(reading.store, 'SMK', 'basePrice')?.value).toBe('30')
  })

  test('an own price in another currency goes with the price at home', async () => {
    const { store } = await products('SKU,Price in GBP,Base price in GBP\nSMK,,25.90\nFR-SHALLOW,,1.60\n')
    expect(store.product.get('smoker')?.ownAmounts['GBP']?.basePrice).toBe('25.9')
    expect(store.variant.get('shallow')?.ownAmounts['GBP']?.basePrice).toBe('1.6')
  })

  test.each([
    ['no SKU', 'SKU,Price\n,3\n', ['no-key']],
    ['an amount with too many digits', 'SKU,Price\nSMK,3.123\n', ['record']],
    ['an amount that is none', 'SKU,Price\nSMK,cheap\n', ['record']],
    ['a negative cost', 'SKU,Cost\nSMK,-1\n', ['record']],
    ['a floor above the price', 'SKU,Price,Floor\nSMK,3,4\n', ['record']],
    ['a new product without name and category', 'SKU,Price\nNEW,3\n', ['needed-when-new', 'needed-when-new']],
    ['a family nobody knows', 'SKU,Family\nSMK,Pine wod\n', ['unknown']],
    ['a status nobody knows', 'SKU,Status\nSMK,gone\n', ['not-among']],
    ['a SKU of another product', 'SKU,Product code\nSMK,FR\n', ['other-product']],
    ['a new variant without its option', 'SKU,Product code\nFR-X,FR\n', ['option-absent']],
    ['a new variant like another one', 'SKU,Product code,Size\nFR-X,FR,deep\n', ['options-alike']],
  ])('%s is refused, and nothing of the row is taken', async (_reason, text, expected) => {
    const reading = await products(text)
    expect(codes(reading)[0]).toEqual(expected)
    expect(reading.drafts).toEqual([])
  })

  test('the nearest family is named', async () => {
    const { outcomes } = await products('SKU,Family\nSMK,Pine wod\n')
    expect(outcomes[0]?.problems).toEqual([
      { code: 'unknown', field: 'Price family', value: 'Pine wod', nearest: 'Pine wood' },
    ])
  })

  test('tax classes and limits go where values go, and are refused with what would be right', async () => {
    const store = { ...small(), 'tax-class': new Map([['book', taxClass('book', 'Books')]]) }
    const read = await products(
      [
        'SKU,Tax code,MOQ,Case size,At most',
        'FR-DEEP,books,6,6,',
        'SMK,book,,,2',
        'FR-SHALLOW,Bookz,,,',
        'FR-SHALLOW,,7,6,',
      ].join('\n'),
      { store },
    )
    expect(read.store.variant.get('deep')).toMatchObject({
      taxClass: 'book',
      limits: { minimum: '6', multiple: '6', maximum: null },
    })
    expect(read.store.product.get('smoker')).toMatchObject({ taxClass: 'book', limits: { maximum: '2' } })
    expect(read.store.variant.get('smk')).toMatchObject({ taxClass: null, limits: { maximum: null } })
    expect(codes(read)).toEqual([[], [], ['unknown'], ['repeated', 'record']])
    expect(effectsText(read.outcomes[0]!.effects)).toContain('Tax class')
    expect(problemSentence(read.outcomes[2]!.problems[0]!, 'point')).toContain('Books')
    const again = await products(productsFile(read.store, UNCOUNTED), { store: read.store })
    expect(again.drafts).toEqual([])
    const emptied = await products('SKU,Tax class,In multiples of\nFR-DEEP,none,none', { store: read.store })
    expect(emptied.store.variant.get('deep')).toMatchObject({ taxClass: null, limits: { multiple: null } })
  })

  test('counts are told beside the records, against what is on hand', async () => {
    const stock = new Map([['smk', { onHand: decimal(7), reserved: decimal(2) }]])
    const read = await products('SKU,Stock\nSMK,9\nFR-DEEP,none\nFR-SHALLOW,-1\n', { stock })
    expect(read.drafts).toEqual([])
    expect(read.counts).toEqual([{ variant: 'smk', seen: '7', counted: '9' }])
    expect(results(read)).toEqual(['changed', 'unchanged', 'wrong'])
    expect(read.outcomes[0]?.effects).toEqual([{ field: 'Stock', before: '7', after: '9' }])
    const stopped = await products('SKU,Stock\nSMK,none\n', { stock })
    expect(stopped.counts).toEqual([{ variant: 'smk', seen: '7', counted: null }])
  })

  test('a wrong row leaves the others', async () => {
    const reading = await products('SKU,Price\nSMK,32\nSMK,33\nFR-DEEP,x\nFR-SHALLOW,1.90\n')
    expect(codes(reading)).toEqual([[], ['repeated'], ['record'], []])
    expect(valueOf(reading.store, 'SMK', 'basePrice')?.value).toBe('32')
    expect(valueOf(reading.store, 'FR-SHALLOW', 'basePrice')?.value).toBe('1.9')
  })

  test('rows of one product must not contradict each other', async () => {
    const reading = await products('SKU,Name\nFR-DEEP,Pine frame\nFR-SHALLOW,Oak frame\n')
    expect(codes(reading)).toEqual([[], ['differs']])
    expect(reading.store.product.get('frame')?.name).toBe('Pine frame')
  })
})

describe('a file of prices', () => {
  const linesOf = (store: Store, id: string) =>
    [...store['price-line'].values()]
      .filter((line) => line.list === id)
      .map((line) => [line.scope.include, breaksText(line)] as const)

  test('rows of one item are the breaks of its line, in the order of their quantities', async () => {
    const reading = await lines('SKU,From quantity,Price\nSMK,10,25\nSMK,,28\nSMK,50,-20%\n', {
      list: 'level',
    })
    expect(results(reading)).toEqual(['changed', 'changed', 'changed'])
    expect(linesOf(reading.store, 'level')).toContainEqual([
      [{ kind: 'variant', variant: 'smk' }],
      '28; 10: 25; 50: -20%',
    ])
  })

  test('a column a list prices several lists at once', async () => {
    const { store } = await lines('SKU,Level,Club\nSMK,27,26\n')
    expect(linesOf(store, 'level')).toHaveLength(2)
    expect(linesOf(store, 'club')).toEqual([[[{ kind: 'variant', variant: 'smk' }], '26']])
  })

  test('a line that names the item among others lets go of it, for each item by itself', async () => {
    const { store } = await lines('SKU,Price\nFR-DEEP,1.40\nFR-SHALLOW,1.30\n', { list: 'level' })
    expect(linesOf(store, 'level')).toEqual([
      [[{ kind: 'variant', variant: 'smk' }], '27'],
      [[{ kind: 'variant', variant: 'deep' }], '1.4'],
      [[{ kind: 'variant', variant: 'shallow' }], '1.3'],
    ])
  })

  test('products, categories and families can be named, and a list by a column', async () => {
    const { store } = await lines(
      'Price list,Product code,Category,Family,Price\nclub,FR,,,-5%\nClub,,Hives > Frames,,m40\nClub,,,Pine wood,9.90\n',
    )
    expect(linesOf(store, 'club').map(([, text]) => text)).toEqual(['-5%', 'm40', '9.9'])
  })

  test('none takes a line away; what is so already stays', async () => {
    const reading = await lines('SKU,Price\nSMK,none\n', { list: 'level' })
    expect(linesOf(reading.store, 'level')).toHaveLength(1)
    expect(results(await lines('SKU,Price\nSMK,27.00\n', { list: 'level' }))).toEqual(['unchanged'])
  })

  test.each([
    ['an unknown SKU', 'SKU,Price\nSMKK,3\n', ['unknown']],
    ['no item', 'SKU,Price\n,3\n', ['no-key']],
    ['no price', 'SKU,Price\nSMK,\n', ['no-price']],
    ['a rule that is none', 'SKU,Price\nSMK,half\n', ['not-a-rule']],
    ['a margin of 100 %', 'SKU,Price\nSMK,m100\n', ['record']],
    ['too many digits', 'SKU,Price\nSMK,3.555\n', ['record']],
    ['a negative quantity', 'SKU,From quantity,Price\nSMK,-1,3\n', ['record']],
    ['an unknown list', 'SKU,Price list,Price\nSMK,Klub,3\n', ['unknown']],
  ])('%s is refused', async (_reason, text, expected) => {
    const reading = await lines(text, { list: 'level' })
    expect(codes(reading)[0]).toEqual(expected)
    expect(reading.drafts).toEqual([])
  })

  test('a row that is wrong in one list is taken into none', async () => {
    const reading = await lines('SKU,Level,Club\nSMK,25,1.999\nFR-DEEP,1.20,1.10\n')
    expect(results(reading)).toEqual(['wrong', 'new'])
    expect(linesOf(reading.store, 'level')).toContainEqual([[{ kind: 'variant', variant: 'smk' }], '27'])
    expect(linesOf(reading.store, 'club')).toHaveLength(1)
  })

  test('a quantity twice is refused', async () => {
    expect(codes(await lines('SKU,From quantity,Price\nSMK,1,3\nSMK,1,4\n', { list: 'level' }))[1]).toEqual([
      'repeated',
    ])
  })
})

test('problems and changes are worded with what would be right', async () => {
  const { outcomes } = await products(
    'SKU,Price,Status,Product code\nSMK,32,,\nSMK,32,,\nFR-DEEP,x,gone,SMK\n',
  )
  expect(outcomes.map(({ effects }) => effectsText(effects))[0]).toBe('Base price 30.00 → 32.00')
  expect(outcomes.flatMap(({ problems }) => problems).map((each) => problemSentence(each, 'comma'))).toEqual([
    'SKU SMK stands in row 2 already.',
    '“x” is not an amount. Write it like 19,90.',
    'Status “gone” must be one of: active, archived.',
    'SKU FR-DEEP belongs to product FR, not to SMK.',
  ])
})
