import { itemFacts, categoriesOf } from '@/core/catalogue/item-facts'
import { type Product, resolveValue, type Variant } from '@/core/catalogue/product'
import { compare, type Decimal, decimal, multiply } from '@/core/decimal/decimal'
import { percentOfFraction, toFraction } from '@/core/decimal/fraction'
import { roundToDigits } from '@/core/decimal/rounding'
import { ask } from '@/core/engine/ask'
import { applyChanges, type Change, type Store } from '@/core/store/store'
import { readWhat } from '@/core/notation/what-text'
import { matchWhat } from '@/core/predicates/what'
import { BLOCK_SIZE, type BoardProduct, type BoardView } from '@/features/board/board-view'
import { comparedColumns } from '@/features/board/columns/compared-columns'
import { loadBoard, loadBoardBlock } from '@/features/board/load-board'
import { findRecords } from '@/features/palette/find-records'
import { findItem, suggestItems } from '@/sheet/price-lines/find-item'
import { loadPriceLists } from '@/features/price-lists/load-price-lists'
import { loadProducts } from '@/features/products/load-products'
import { pageOf, readPage } from '@/features/shop/frame/pages'
import { loadFront, loadListing, searchShop, shopChoices } from '@/features/shop/catalogue/load-shop'
import { loadShopProduct, quoteFor } from '@/features/shop/product/load-shop-product'
import { orderedProducts, shownProducts } from '@/server/engine/catalogue-order'
import { soldInScope } from '@/server/engine/sold-variants'
import { lookAs, prepared, store, visitAs } from '@tests/fixtures/demo-request'

const EVERYTHING = { category: null, of: '', text: '', only: null, columns: [] }

const ONE = { quantity: decimal(1), extras: [], basket: [] }

describe('the board', () => {
  const requestContext = lookAs('account:fennmoor')
  const products: BoardProduct[] = []
  let view: BoardView
  beforeAll(async () => {
    view = await loadBoard(requestContext, EVERYTHING)
    for (let from = 0; from < view.counts.length; from += BLOCK_SIZE)
      products.push(...(await loadBoardBlock(requestContext, EVERYTHING, from, BLOCK_SIZE)))
  })

  test('whoever is looked as stands first, then guests, then the groups in their order', async () => {
    expect(view.columns.map(({ title }) => title)).toEqual([
      'Fennmoor Honey Farm',
      'Guest',
      'Retail',
      'Club members',
      'Bee farms',
      'Distributors',
      'Schools',
    ])
    expect((await loadBoard(lookAs('guest'), EVERYTHING)).columns).toHaveLength(6)
  })

  test('a comparison never stands alone, and can be narrowed to what differs', async () => {
    const guest = lookAs('guest')
    expect(comparedColumns(store, requestContext.vantage).map(({ as }) => as)).toEqual([
      'guest',
      'account:fennmoor',
    ])
    const columns = comparedColumns(store, guest.vantage)
    expect(columns.map(({ as }) => as)).toEqual(['guest', 'group:bee-farms'])
    const differing = await loadBoard(guest, { ...EVERYTHING, columns, only: 'differing' })
    const all = await loadBoard(guest, { ...EVERYTHING, columns })
    const block = await loadBoardBlock(guest, { ...EVERYTHING, columns }, 0, all.counts.length)
    const rows = block.flatMap((each) => each.variants)
    const different = rows.filter(({ cells: [first, other] }) => first?.amount !== other?.amount)
    expect(differing.variantCount).toBe(different.length)
    expect(differing.variantCount).toBeLessThan(all.variantCount)
    const alone = await loadBoard(guest, { ...EVERYTHING, columns: [guest.vantage], only: 'differing' })
    expect(alone.variantCount).toBe(0)
  })

  test('what it shows is any rule of the catalogue; what the store does not know is said', async () => {
    const of = 'Hives, Timber=Pine, not in stock, not HV-COM'
    const shown = await loadBoard(requestContext, { ...EVERYTHING, of })
    const rows = await loadBoardBlock(requestContext, { ...EVERYTHING, of }, 0, shown.counts.length)
    const scope = readWhat(store, of)
    const held = scope.ok ? await soldInScope(prepared, scope.value) : []
    const skus = (all: readonly { readonly sku: string }[]) => all.map(({ sku }) => sku).sort()
    expect(skus(rows.flatMap(({ variants }) => variants))).toEqual(skus(held.map(({ variant }) => variant)))
    expect(shown.whatWords).toBe('Hives and Timber Pine, but not what is in stock and Commercial hive')
    expect(await loadBoard(requestContext, { ...EVERYTHING, of: 'Hivse' })).toMatchObject({
      counts: [],
      whatProblem: expect.stringContaining('Hives'),
    })
    expect(await loadBoard(requestContext, { ...EVERYTHING, category: 'gone' })).toMatchObject({
      counts: [],
      whatProblem: 'There is no category “gone”.',
    })
  })

  test('blocks together are the whole catalogue, once, in the sizes promised', () => {
    expect(products.map(({ variants }) => variants.length)).toEqual(view.counts)
    const ids = products.flatMap(({ variants }) => variants.map(({ id }) => id))
    expect(new Set(ids).size).toBe(store.variant.size)
    expect(ids).toHaveLength(store.variant.size)
    expect(view.firstBlock).toEqual(products.slice(0, BLOCK_SIZE))
  })

  test('every cell is the engine’s answer, and names the list that decided', () => {
    for (const { variants } of products) {
      for (const variant of variants) {
        view.columns.forEach(({ vantage }, column) => {
          const { buyerContext } = lookAs(vantage.as)
          const asked = ask(prepared, { ...buyerContext, ...ONE, variant: variant.id })
          if (!asked.ok) throw new Error(vantage.as)
          const { unit, trace } = asked.value
          expect(variant.cells[column]).toMatchObject({
            amount: unit,
            list: trace.winner.kind === 'list' ? trace.winner.at.list : null,
          })
        })
      }
    }
  })

  test('an edit goes to lists of the buyer’s own, an account’s before its group’s', () => {
    const own = (title: string) =>
      view.columns.find((column) => column.title === title)?.ownLists.map(({ name }) => name)
    expect(own('Fennmoor Honey Farm')).toEqual([
      'Fennmoor agreed prices',
      'Wax round for bee farms',
      'Bee farm level',
      'Trade packaging by the pallet',
    ])
    expect(own('Retail')).toEqual([])
    expect(own('Guest')).toEqual([])
  })
})

describe('the catalogue’s order and filter', () => {
  const codes = (category: string | null, text = '') =>
    shownProducts(store, { category, text }).map(({ product }) => product.code)

  test('a category shows exactly what a rule for it would reach', () => {
    for (const { id, code } of store.category.values()) {
      const reached = orderedProducts(store).filter(({ product, variants }) => {
        const [variant] = variants
        if (!variant) return false
        const facts = itemFacts(product, variant, categoriesOf(store.category, product), store)
        return matchWhat(
          { include: [{ kind: 'category', category: id, descendants: true }], exclude: [] },
          facts,
        ).matches
      })
      expect(codes(code)).toEqual(reached.map(({ product }) => product.code))
    }
  })

  test('a product in two categories is shown in both, and once in all', () => {
    expect(codes('hives')).toContain('HV-ST2')
    expect(codes('clothing')).toContain('HV-ST2')
    expect(codes(null).filter((code) => code === 'HV-ST2')).toHaveLength(1)
  })

  test('words find names, codes, SKUs and options; a SKU’s words leave its siblings out', () => {
    expect(codes(null, 'brood frames')).toEqual(['FR-BR'])
    const [frames] = shownProducts(store, { category: null, text: 'fr-br-ca' })
    expect(frames?.variants.map(({ sku }) => sku)).toEqual(['FR-BR-CA'])
    expect(codes('jars', 'frames')).toEqual([])
    expect(codes('no-such-category')).toEqual([])
  })

  test('after edits that move nothing, some that do, and both together it is what sorting anew gives', () => {
    const afresh = (from: Store): Store => ({
      ...from,
      product: new Map(from.product),
      variant: new Map(from.variant),
    })
    const [first, second] = [...store.product.values()] as unknown as readonly [Product, Product]
    const [one, other] = [...store.variant.values()] as unknown as readonly [Variant, Variant]
    const found = (from: Store, category: string | null, text: string) =>
      shownProducts(from, { category, text }).map(({ product, variants }) => ({ product, variants }))
    const edit = (record: Product | Variant, fields: object): Change => {
      const kind = 'sku' in record ? 'variant' : 'product'
      return { kind, id: record.id, before: record, after: { ...record, ...fields } } as Change
    }
    const steps: readonly (readonly Change[])[] = [
      [edit(first, { basePrice: decimal('1.23') })],
      [edit(one, { sku: 'ANOTHER-SKU' })],
      [edit(second, { name: 'A name before all' })],
      [edit(other, { position: 99 }), edit(first, { basePrice: decimal('1.24') })],
      [edit(second, { status: 'archived' })],
      [edit(one, { status: 'archived' }), edit(second, { status: 'active' })],
    ]
    let now = afresh(store)
    orderedProducts(now)
    for (const changes of steps) {
      now = applyChanges(now, changes)
      for (const [category, text] of [
        [null, ''],
        ['hives', ''],
        [null, 'another-sku'],
      ] as const)
        expect(found(now, category, text)).toEqual(found(afresh(now), category, text))
    }
  })
})

describe('the shop', () => {
  const guest = visitAs('guest')
  const farm = visitAs('account:fennmoor')

  test('a guest is shown one price; others the public one beside it only where it is higher', () => {
    for (const { product } of orderedProducts(store)) {
      const forGuest = loadShopProduct(guest, product.code)
      const forFarm = loadShopProduct(farm, product.code)
      forFarm?.variants.forEach(({ price }, at) => {
        const all = forGuest?.variants[at]?.price
        if (all?.isPromoted || price.isPromoted) return
        expect(all?.was).toBeNull()
        const lower = price.own !== null && all?.own && compare(price.own, all.own) < 0
        expect(price.was).toBe(lower ? all.own : null)
      })
    }
  })

  test('a promotion on prices shows on the card, on the page and for several, beside what was paid before', () => {
    const [card] = loadListing(guest, 'jackets')?.cards ?? []
    const page = loadShopProduct(guest, card?.code ?? '')
    const [variant] = page?.variants ?? []
    expect(card?.badge).toEqual({ name: 'Suits in winter', ends: 'until 31 Jan 2027' })
    expect(variant?.price.isPromoted).toBe(true)
    const { own, was } = variant?.price ?? {}
    // 15 % less, to the cent.
    expect(own).toBe(roundToDigits(percentOfFraction(toFraction(was as Decimal), decimal(85)), 2, 'half-up'))
    expect(variant?.notes.map(({ name }) => name)).toEqual(['Suits in winter'])
    const three = quoteFor(guest, variant?.sku ?? '', decimal(3), [])
    expect(three?.own).toBe(own)
    expect(three?.total).toBe(multiply(own as Decimal, decimal(3)))
    const later = visitAs('guest', { on: '2027-02-01T10:00' })
    expect(loadShopProduct(later, card?.code ?? '')?.variants[0]?.price).toMatchObject({
      own: was,
      was: null,
    })
  })

  test('what a little more would bring stands beside the product', () => {
    const [tool] = loadListing(guest, 'hive-tools')?.cards ?? []
    const sku = loadShopProduct(guest, tool?.code ?? '')?.variants[0]?.sku ?? ''
    const texts = (quantity: number) =>
      quoteFor(guest, sku, decimal(quantity), [])?.notes.map(({ text }) => text)
    expect(texts(1)).toEqual([expect.stringMatching(/^2 more for it, saves €/)])
    expect(texts(3)).toEqual([expect.stringMatching(/^Saves €[\d.]+ on these 3\.$/)])
    expect(texts(4)).toEqual([expect.stringMatching(/^Saves €[\d.]+ on these 4\. 2 more for it, saves €/)])
  })

  test('nothing of the merchant’s own is in what a page is given', () => {
    const given = JSON.stringify([
      loadFront(farm),
      loadListing(farm, 'frames-foundation'),
      searchShop(farm, 'frame'),
      loadShopProduct(farm, 'FR-BR'),
    ])
    for (const field of ['cost', 'margin', 'list', 'recommendedPrice', 'base'])
      expect(given).not.toContain(`"${field}`)
  })

  test('a card starts from the cheapest variant', () => {
    const listing = loadListing(guest, 'brood-frames')
    expect(listing?.cards.find(({ code }) => code === 'FR-BR')).toMatchObject({
      price: { own: '25.9' },
      from: true,
    })
    expect(listing?.path.map(({ name }) => name)).toEqual(['Frames and foundation', 'Frames', 'Brood frames'])
    expect(loadListing(guest, 'nowhere')).toBeNull()
    expect(loadShopProduct(guest, 'NOWHERE')).toBeNull()
    expect(searchShop(guest, '  ').cards).toEqual([])
  })

  test('a page that is not there is the nearest that is, and pages together are the whole', () => {
    expect(searchShop(guest, 'frame', 99)).toEqual(searchShop(guest, 'frame'))
    const all = Array.from({ length: 100 }, (_, at) => at)
    const pages = [1, 2, 3].map((page) => pageOf(all, page, 48))
    expect(pages.flatMap(({ shown }) => shown)).toEqual(all)
    expect(pageOf(all, 4, 48)).toMatchObject({ page: 3, pages: 3, total: 100 })
    expect(['2', '0', '-1', '1e9', undefined, 'two'].map(readPage)).toEqual([2, 1, 1, 1, 1, 1])
  })

  test('each department is shown by something filed in it first', () => {
    for (const { code, card } of loadFront(guest)) {
      const first =
        [...store.product.values()].find((product) => product.code === card.code)?.categories[0] ?? ''
      const reached = loadListing(guest, store.category.get(first)?.code ?? '')
      expect(reached?.path[0]?.code).toBe(code)
    }
  })
})

test('the product list: ranges over variants, and the least margin is the least', async () => {
  const row = (await loadProducts(lookAs('group:bee-farms'), '')).rows.find(({ code }) => code === 'FR-BR')
  // Cedar assembled: 45.75 over a cost of 35.15.
  expect(row).toMatchObject({
    variants: 4,
    base: '25.90 – 52.00',
    cost: '13.10 – 35.15',
    price: '22.80 – 45.75',
    leastMargin: '23.2',
  })
  const unpriced = (await loadProducts(lookAs('guest'), 'ex-hr')).rows.find(({ code }) => code === 'EX-HR')
  expect(unpriced).toMatchObject({ cost: '', leastMargin: null })
})

test('the price lists: who they are for, and each variant is decided by one of them or the base price', async () => {
  const rows = await loadPriceLists(lookAs('account:fennmoor'))
  expect(rows.find(({ code }) => code === 'trade-packaging')).toMatchObject({
    audience: 'all trade groups, but not Northern Skep Trading',
    accounts: 11,
    decides: 0,
  })
  // Reached through contracts alone, and through both an audience and a contract.
  expect(rows.find(({ name }) => name === 'Wax round for bee farms')).toMatchObject({
    audience: 'contract C-104',
    accounts: 1,
  })
  expect(rows.find(({ name }) => name === 'Sterling trade prices')).toMatchObject({ accounts: 1 })
  expect(rows.find(({ name }) => name === 'School level')).toMatchObject({ audience: 'Schools', accounts: 3 })
  expect(rows.find(({ code }) => code === 'spring-clear-out')).toMatchObject({ on: false, decides: 0 })
  const decided = rows.reduce((sum, { decides }) => sum + decides, 0)
  const byBase = [...store.variant.values()].filter((variant) => {
    const asked = ask(prepared, { ...lookAs('account:fennmoor').buyerContext, ...ONE, variant: variant.id })
    return asked.ok && asked.value.trace.winner.kind !== 'list'
  })
  expect(decided + byBase.length).toBe(store.variant.size)
})

describe('naming things by typing', () => {
  test.each([
    ['FR-BR-PF', { kind: 'variant', variant: 'variant-FR-BR-PF' }],
    ['fr-br', { kind: 'product', product: 'product-FR-BR' }],
    [' Jars ', { kind: 'category', category: 'category-jars', descendants: true }],
    ['hive-parts', { kind: 'category', category: 'category-hive-parts', descendants: true }],
    ['HV-OBS', { kind: 'product', product: 'product-HV-OBS' }],
    ['frames and such', null],
  ])('%s', (typed, term) => expect(findItem(store, typed)).toEqual(term))

  test('suggestions hold what was typed, and what is suggested can be typed', () => {
    for (const typed of ['jar', 'FR-', 'queen']) {
      const suggestions = suggestItems(store, typed)
      expect(suggestions.length).toBeGreaterThan(2)
      for (const { value } of suggestions) expect(findItem(store, value)).not.toBeNull()
    }
    expect(suggestItems(store, ' ')).toEqual([])
  })

  test('the palette finds products, lists, groups and accounts by any of their words', () => {
    const found = (words: string) => findRecords(store, words).map(({ kind, title }) => `${kind}: ${title}`)
    expect(found('bee farm')).toEqual([
      'Price list: Bee farm level',
      'Price list: Wax round for bee farms',
      'Look as: Bee farms',
    ])
    expect(found('mullingar')).toEqual(['Look as: Fennmoor Honey Farm'])
    expect(found('queen excluder')).toEqual(['Product: Queen excluder', 'Category: Queen excluders'])
    expect(found('xyzzy')).toEqual([])
  })
})

test('the demo looks like a business: margins of a trade, few and deliberate oddities', () => {
  const variants = [...store.variant.values()].map((variant) => {
    const product = store.product.get(variant.product)
    if (!product) throw new Error(variant.sku)
    const value = (field: 'basePrice' | 'cost' | 'recommendedPrice') =>
      resolveValue(product, variant, field).value
    return {
      sku: variant.sku,
      base: value('basePrice'),
      cost: value('cost'),
      recommended: value('recommendedPrice'),
    }
  })
  const below = (left: Decimal | null, right: Decimal | null) =>
    left !== null && right !== null && compare(left, right) < 0
  expect(variants.filter(({ base }) => base === null).map(({ sku }) => sku)).toEqual(['HH-OX-275'])
  expect(variants.filter(({ cost }) => cost === null).map(({ sku }) => sku)).toEqual(['EX-HR'])
  expect(variants.filter(({ base, cost }) => below(base, cost))).toEqual([])
  expect(variants.filter(({ base, recommended }) => below(recommended, base))).toEqual([])
})

test.each([
  ['a guest at home', 'guest', {}, { country: 'IE', currency: '', following: 'EUR' }],
  ['a guest who pays otherwise', 'guest', { currency: 'GBP' }, { currency: 'GBP', following: 'EUR' }],
  ['a guest elsewhere', 'guest', { deliverTo: 'GB' }, { country: 'GB', currency: '', following: 'GBP' }],
  ['what follows anyway', 'guest', { deliverTo: 'GB', currency: 'GBP' }, { currency: '', following: 'GBP' }],
  ['a contract in sterling', 'account:northern-skep', {}, { currency: '', following: 'GBP' }],
] as const)('the shop names what is paid in: %s', (_name, as, vantage, expected) => {
  expect(shopChoices(visitAs(as, vantage))).toMatchObject(expected)
})
