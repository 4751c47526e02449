import type * as Records from '@/sheet/record/save/save-record'
import type * as Prices from '@/sheet/price-lines/agree-price'
import type * as Renewals from '@/sheet/price-lines/renew'
import type * as Taxes from '@/features/taxes/save-rates'
import type * as Currencies from '@/features/currencies/set-rate'
import type * as Members from '@/features/buyers/save-members'
import type * as Pickers from '@/features/pickers/make-record'
import type * as Products from '@/features/products/price-in-list'
import type * as Categories from '@/features/catalogue/categories/move-category'
import { type Steppe } from '@/server/engine/steppe'
import { DEFAULT_VANTAGE } from '@/ui/frame/vantage-url'
import { demoSteppe } from './demo-steppe'
import { jestOf, standInForFramework } from './framework'
import { liveView, liveTarget, revisionOf } from '@/server/views/view'

standInForFramework(jestOf(import.meta))

const demo = demoSteppe()
let steppe: Steppe
let records: typeof Records
let prices: typeof Prices
let renewals: typeof Renewals
let taxes: typeof Taxes
let currencies: typeof Currencies
let members: typeof Members
let pickers: typeof Pickers
let products: typeof Products
let categories: typeof Categories
beforeAll(async () => {
  steppe = demo.current
  const holder = globalThis as { [key: symbol]: unknown }
  holder[Symbol.for('steppe.running')] = Promise.resolve(steppe)
  records = await import('@/sheet/record/save/save-record')
  prices = await import('@/sheet/price-lines/agree-price')
  renewals = await import('@/sheet/price-lines/renew')
  taxes = await import('@/features/taxes/save-rates')
  currencies = await import('@/features/currencies/set-rate')
  members = await import('@/features/buyers/save-members')
  pickers = await import('@/features/pickers/make-record')
  products = await import('@/features/products/price-in-list')
  categories = await import('@/features/catalogue/categories/move-category')
})

const store = () => liveView(steppe).prepared.store
type Kind = Parameters<typeof records.saveRecord>[0]['kind']
const byCode = <Item extends { readonly code: string }>(
  all: ReadonlyMap<string, Item>,
  code: string,
): Item => {
  const found = [...all.values()].find((each) => each.code === code)
  if (!found) throw new Error(`the demo has no ${code}`)
  return found
}
const sheetOf = (kind: Kind, id: string, label: string) => ({
  kind,
  id,
  label,
  revision: revisionOf(liveTarget(steppe), kind, id),
  vantage: DEFAULT_VANTAGE,
  copyOf: null,
})

test('several fields are saved as one change set; what cannot be read is told by field, and nothing is written', async () => {
  const { id, code } = byCode(store().adjustment, 'november-week')
  const sheet = sheetOf('adjustment', id, code)
  const before = steppe.lastChangeSet
  const refused = await records.saveRecord(sheet, { method: '12 % less', schedule: 'some day' })
  expect(refused).toMatchObject({ ok: false, problems: { schedule: expect.stringContaining('some day') } })
  expect(steppe.lastChangeSet).toBe(before)
  expect(await records.saveRecord(sheet, { method: '12 % less', name: 'Late November' })).toMatchObject({
    ok: true,
  })
  expect(steppe.lastChangeSet).toBe(before + 1)
  expect(store().adjustment.get(id)).toMatchObject({ name: 'Late November', method: { percent: '-12' } })
})

test('a field somebody else changed comes back with both values; put on the new revision it is saved', async () => {
  const { id, code } = byCode(store().limit, 'buckets-by-the-stack')
  const mine = sheetOf('limit', id, code)
  expect(await records.saveRecord(mine, { multiple: '6' })).toMatchObject({ ok: true })
  const outcome = await records.saveRecord(mine, { multiple: '24', message: 'By the pallet' })
  expect(outcome).toMatchObject({
    ok: false,
    conflicts: [{ field: 'multiple', theirs: '6', mine: '24' }],
    revision: steppe.lastChangeSet,
  })
  const revision = outcome.ok ? null : (outcome.revision ?? null)
  expect(await records.saveRecord({ ...mine, revision }, { multiple: '24' })).toMatchObject({ ok: true })
  expect(store().limit.get(id)?.multiple).toBe('24')
})

test('a record is made of its name, switched, put away, and removed', async () => {
  const made = await records.createRecord(
    'access-rule',
    { name: 'No jars', scope: 'Jars', audience: 'guests' },
    null,
  )
  expect(made).toMatchObject({ ok: true, href: '/access-rules/no-jars' })
  const { id } = byCode(store()['access-rule'], 'no-jars')
  await records.switchRecord(sheetOf('access-rule', id, 'no-jars'))
  expect(store()['access-rule'].get(id)?.state).toBe('off')
  await records.archiveRecord(sheetOf('access-rule', id, 'no-jars'))
  expect(store()['access-rule'].get(id)?.status).toBe('archived')
  expect(
    await records.undoOnRecord(sheetOf('access-rule', id, 'no-jars'), steppe.lastChangeSet),
  ).toMatchObject({
    ok: true,
  })
  expect(store()['access-rule'].get(id)?.status).toBe('active')
  expect(await records.removeRecord(sheetOf('access-rule', id, 'no-jars'))).toMatchObject({ ok: true })
  expect(store()['access-rule'].has(id)).toBe(false)
  expect(await records.createRecord('variant', { sku: 'X-1' }, null)).toMatchObject({ ok: false })
})

test('a price is agreed in a list that is theirs alone, made on the way; the second changes the same line', async () => {
  const contract = byCode(store().contract, 'C-104')
  const party = { kind: 'contract', id: contract.id } as const
  const lists = store()['price-list'].size
  expect(await prices.agreePrice(party, 'Smokers', '10 % off base')).toMatchObject({ ok: true })
  const [own = ''] = store().contract.get(contract.id)?.lists ?? []
  expect(store()['price-list'].size).toBe(lists + 1)
  expect(store()['price-list'].get(own)?.audience.include).toEqual([])
  expect(await prices.agreePrice(party, 'Smokers', '12 % off base')).toMatchObject({ ok: true })
  const lines = [...store()['price-line'].values()].filter(({ list }) => list === own)
  expect(lines).toHaveLength(1)
  expect(lines[0]?.breaks[0]?.method).toMatchObject({ kind: 'percent', percent: '-12' })
  expect(await prices.agreePrice(party, 'Smokrs', '12 % off base')).toMatchObject({ ok: false })
  expect(await prices.agreePrice(party, 'Smokers', 'cheap')).toMatchObject({ ok: false })
  expect(await prices.changeAgreedLine(lines[0]?.id ?? '', '')).toMatchObject({ ok: true })
  expect([...store()['price-line'].values()].some(({ list }) => list === own)).toBe(false)
})

test('a contract is renewed: the next period, its own lists with their lines raised, shared ones as they are', async () => {
  const contract = byCode(store().contract, 'C-104')
  expect(await renewals.suggestRenewal('contract', contract.id)).toEqual({
    from: '2027-04-01T00:00',
    to: '2028-04-01T00:00',
  })
  const renewal = { kind: 'contract', id: contract.id, from: '1 April 2027', to: '31 March 2028' } as const
  expect(await renewals.renew({ ...renewal, percent: 'two' })).toMatchObject({ ok: false, field: 'percent' })
  expect(await renewals.renew({ ...renewal, to: '1 March 2027', percent: '2' })).toMatchObject({
    ok: false,
    field: 'to',
  })
  const outcome = await renewals.renew({ ...renewal, percent: '2' })
  expect(outcome).toMatchObject({ ok: true })
  const next = [...store().contract.values()].find(({ from }) => from === '2027-04-01T00:00')
  expect(next).toMatchObject({ to: '2028-04-01T00:00', state: 'active', accounts: contract.accounts })
  expect(store().contract.get(contract.id)).toMatchObject({ to: '2027-04-01T00:00' })
})

test('other tax rates from a day: the present row ends the day before, classes left empty keep their rate', async () => {
  const portugal = { tax: 'vat', country: 'PT', state: '', postcode: '', city: '', from: null, to: null }
  const rates = () => [...store()['tax-rate'].values()].filter(({ country }) => country === 'PT')
  const count = rates().length
  expect(
    await taxes.scheduleRates(
      { place: portugal, from: 'soon', percents: [], reason: '' },
      steppe.lastChangeSet,
    ),
  ).toMatchObject({ ok: false })
  const standard = [...store()['tax-class'].values()].sort((left, right) => left.position - right.position)[0]
  expect(
    await taxes.scheduleRates(
      { place: portugal, from: '1 January 2027', percents: ['', '22'], reason: '' },
      steppe.lastChangeSet,
    ),
  ).toMatchObject({ ok: true })
  expect(rates()).toHaveLength(2 * count)
  expect(rates().filter(({ to }) => to === '2027-01-01T00:00')).toHaveLength(count)
  const next = rates().find(({ from, taxClass }) => from === '2027-01-01T00:00' && taxClass === standard?.id)
  expect(next?.percent).toBe('22')
  const added = { tax: 'vat', where: 'Spain', from: '', to: '', percents: ['', '21,0'], reason: '' }
  expect(await taxes.addRates(added, steppe.lastChangeSet)).toEqual({ ok: true, changed: 1 })
  expect(await taxes.addRates(added, steppe.lastChangeSet)).toMatchObject({ ok: false })
})

test('a rate is tried without being written, then set from a coming day', async () => {
  const input = { currency: 'GBP', rate: '0,9', from: '1 March 2027' }
  const before = steppe.lastChangeSet
  const tried = await currencies.tryRate(input)
  expect(tried).toMatchObject({ ok: true, summary: expect.stringContaining('prices rise') })
  expect(steppe.lastChangeSet).toBe(before)
  expect(await currencies.setRate({ ...input, rate: '0' })).toMatchObject({ ok: false, field: 'rate' })
  expect(await currencies.setRate({ ...input, from: 'then' })).toMatchObject({ ok: false, field: 'from' })
  expect(await currencies.setRate(input)).toMatchObject({ ok: true })
  const rate = [...store()['exchange-rate'].values()].find(({ from }) => from.startsWith('2027-03-01'))
  expect(rate).toMatchObject({ currency: 'GBP', rate: '0.9' })
  expect(await currencies.removeRate(rate?.id ?? '')).toBeNull()
})

test('members join and leave a group by name', async () => {
  const club = byCode(store().group, 'club')
  const account = byCode(store().account, 'fennmoor')
  expect(await members.changeMembers(club.id, 'Fenmoor Honey Farm', true)).toMatch(
    /Did you mean Fennmoor Honey Farm/,
  )
  expect(await members.changeMembers(club.id, 'Fennmoor Honey Farm', true)).toBeNull()
  expect(store().account.get(account.id)?.groups).toContain(club.id)
  expect(await members.changeMembers(club.id, 'Fennmoor Honey Farm', false)).toBeNull()
  expect(store().account.get(account.id)?.groups).not.toContain(club.id)
})

test('what is missing in a picker is made there with a name; a region needs more', async () => {
  expect(await pickers.makeNamedRecord('price-list', 'Larch Hill prices')).toMatchObject({ ok: true })
  expect(byCode(store()['price-list'], 'larch-hill-prices')).toMatchObject({
    purpose: 'contract',
    audience: { include: [] },
  })
  expect(await pickers.makeNamedRecord('region', 'Nowhere')).toMatchObject({ ok: false })
})

test('a price typed over in one list makes a line for that variant, and emptied follows the rule again', async () => {
  const list = byCode(store()['price-list'], 'club-level')
  const edit = {
    list: list.id,
    item: { kind: 'variant', variant: 'variant-FR-BR-PF' } as const,
    vantage: DEFAULT_VANTAGE,
  }
  expect(await products.setListPrice({ ...edit, typed: '20', seen: '1.00' })).toMatchObject({ ok: false })
  expect(await products.setListPrice({ ...edit, typed: '21,50', seen: '23.30' })).toMatchObject({ ok: true })
  const own = () =>
    [...store()['price-line'].values()].find(
      ({ list: of, scope }) => of === list.id && JSON.stringify(scope).includes('variant-FR-BR-PF'),
    )
  expect(own()?.breaks[0]?.method).toEqual({ kind: 'fixed', amount: '21.5' })
  expect(await products.setListPrice({ ...edit, typed: '', seen: '21.50' })).toMatchObject({ ok: true })
  expect(own()).toBeUndefined()

  // A rule for everything leaves extras alone: the list has no price for one until it is typed.
  const extra = { ...edit, item: { kind: 'extra', extra: byCode(store().extra, 'assembly').id } as const }
  expect(await products.setListPrice({ ...extra, typed: '5', seen: '' })).toMatchObject({ ok: true })
  expect(await products.setListPrice({ ...extra, typed: '', seen: '5.00' })).toMatchObject({ ok: true })
})

test('a category moves with the lines it would leave, as one change set; what the tree no longer has is refused', async () => {
  const { id } = byCode(store().category, 'nuclei')
  const into = byCode(store().category, 'queens').id
  const before = steppe.lastChangeSet
  const move = { id, place: { parent: into, before: null }, keepsPrices: true }
  expect(await categories.moveCategory({ ...move, place: { parent: 'gone', before: null } }, before)).toMatch(
    /^There is no such category to move it into/,
  )
  expect(await categories.moveCategory({ ...move, place: { parent: id, before: null } }, before)).toMatch(
    /^The tree has changed/,
  )
  expect(steppe.lastChangeSet).toBe(before)
  const naming = () =>
    [...store()['price-line'].values()].filter(({ scope }) =>
      scope.include.some((term) => term.kind === 'category' && term.category === id),
    ).length
  const named = naming()
  expect(await categories.moveCategory(move, before)).toBeNull()
  expect(store().category.get(id)?.parent).toBe(into)
  expect(naming()).toBeGreaterThan(named)
  expect(steppe.lastChangeSet).toBe(before + 1)
  // Somebody else moved it meanwhile.
  const again = { ...move, place: { parent: null, before: null }, keepsPrices: false }
  expect(await categories.moveCategory(again, before)).toMatch(/meanwhile/)
})
