import type * as Drafts from '@/features/drafts/draft-actions'
import type * as Reprices from '@/features/reprice/put-into-draft'
import type { BuyerCode } from '@/core/buyers/buyer-code'
import type { Vantage } from '@/core/engine/context/vantage'
import { loadCalendar } from '@/features/calendar/load-calendar'
import { loadDrafts } from '@/features/drafts/load-drafts'
import { loadDraftsPage } from '@/features/drafts/load-drafts-page'
import { impactSheet, impactTable } from '@/features/drafts/impact/export-impact'
import { loadBetween } from '@/features/drafts/impact/load-between'
import { loadReview } from '@/features/drafts/review/load-review'
import { parseReview, reviewAddress, reviewHref } from '@/features/drafts/review/review-url'
import { countFindings } from '@/features/findings/count-findings'
import { loadFindings } from '@/features/findings/load-findings'
import { loadPriceHistory } from '@/features/price-history/load-price-history'
import { loadProofs } from '@/features/proofs/load-proofs'
import { loadReprice } from '@/features/reprice/load-reprice'
import { parseReprice, repriceHref } from '@/features/reprice/reprice-url'
import { ALWAYS } from '@/core/predicates/when'
import { commit } from '@/server/changes/commit'
import { undo } from '@/server/changes/history'
import type { ChangeRequest } from '@/server/changes/weigh'
import { currentInstant } from '@/server/clock'
import { draftImpact, type DraftView } from '@/server/drafts/draft-impact'
import { type RequestContext, toRequestContext } from '@/server/engine/request-context'
import type { Steppe } from '@/server/engine/steppe'
import { getView } from '@/server/views/views'
import { liveView, revisionOf } from '@/server/views/view'
import { DEFAULT_VANTAGE } from '@/ui/frame/vantage-url'
import Papa from 'papaparse'
import readExcel from 'read-excel-file/node'
import { demoSteppe } from './demo-steppe'
import { jestOf, standInForFramework } from './framework'

standInForFramework(jestOf(import.meta))

const demo = demoSteppe()
let steppe: Steppe
let reprices: typeof Reprices
let drafts: typeof Drafts
/** A draft in which frames cost 4 % more, ending in .90. */
let draft: DraftView

beforeAll(async () => {
  steppe = demo.current
  const holder = globalThis as { [key: symbol]: unknown }
  holder[Symbol.for('steppe.running')] = Promise.resolve(steppe)
  reprices = await import('@/features/reprice/put-into-draft')
  drafts = await import('@/features/drafts/draft-actions')
  const outcome = await reprices.putIntoDraft({
    fields: { of: 'Frames', rule: '+4%', ending: 'ends .90' },
    leftOut: [],
    typed: {},
  })
  if (!outcome.ok) throw new Error(outcome.problem)
  draft = (await getView(steppe, { kind: 'draft', code: outcome.draft })) as DraftView
})

const now = () => currentInstant().getTime()
const look = (as: BuyerCode = 'guest', vantage: Partial<Vantage> = {}): RequestContext =>
  toRequestContext(liveView(steppe), { ...DEFAULT_VANTAGE, as, ...vantage }, now())
const lookThrough = (as: BuyerCode = 'guest'): RequestContext =>
  toRequestContext(draft, { ...DEFAULT_VANTAGE, as, draft: draft.draft.draft.code }, now())

describe('reprice', () => {
  const shown = parseReprice({ of: 'Frames', rule: '+4%', ending: 'ends .90' })

  test('an address tells what was chosen, and nothing that is usual', () => {
    expect(parseReprice(Object.fromEntries(new URL(repriceHref(shown), 'http://x').searchParams))).toEqual(
      shown,
    )
    expect(repriceHref(parseReprice({ show: 'nonsense', page: '-1' }))).toBe('/reprice')
  })

  test('rows, tabs and counts tell one story', async () => {
    const view = await loadReprice(look(), shown)
    expect(view.whatWords).toBe('Frames')
    const brood = view.rows.find(({ code }) => code === 'FR-BR')
    // 25.90 + 4 % = 26.936, to the nearest .90.
    expect(brood).toMatchObject({ now: '25.90', byRule: '26.94', next: '26.90', percent: '+3.9 %' })
    const tabs = await Promise.all(
      (['all', 'outliers', 'same', 'problems'] as const).map((tab) => loadReprice(look(), { ...shown, tab })),
    )
    for (const each of tabs) expect(each.rows.length).toBe(Math.min(each.total, 100))
    expect(tabs.map(({ total }) => total)).toEqual([
      view.counts.all,
      view.counts.outliers,
      view.counts.same,
      view.counts.problems,
    ])
    // In the draft the same rule stands on the raised prices.
    const again = await loadReprice(lookThrough(), shown)
    const inDraft = new Set(draft.draft.changes.map(({ kind, id }) => `${kind}/${id}`))
    expect(inDraft.size).toBe(view.counts.all - view.counts.same - view.counts.problems)
    expect(again.draft).toEqual({
      name: draft.draft.draft.name,
      already: again.rows.filter(({ key, now: was, next }) => was !== next && inDraft.has(key)).length,
    })
    expect(again.rows.find(({ code }) => code === 'FR-BR')).toMatchObject({ now: '26.90', next: '27.90' })
  })

  test('fixed prices of a list, and amounts set in a currency, are repriced as well', async () => {
    const { choices } = await loadReprice(look(), shown)
    const ofLists = choices.fields.find(({ title }) => title === 'Fixed in a price list')?.choices ?? []
    const [field = ''] = ofLists.find(([, name]) => name.includes('Fennmoor')) ?? []
    const view = await loadReprice(look(), parseReprice({ field, rule: '+10%' }))
    expect(view.counts.all).toBeGreaterThan(0)
    expect(view.fixedLines).toBeNull()
    const [row] = view.rows
    expect(Number(row?.next)).toBeCloseTo(Number(row?.now) * 1.1, 1)
    const outcome = await reprices.putIntoDraft({
      fields: { field, rule: '+10%' },
      leftOut: [],
      typed: { [row?.key ?? '']: '1.23' },
    })
    if (!outcome.ok) throw new Error(outcome.problem)
    const { prepared } = await getView(steppe, { kind: 'draft', code: outcome.draft })
    const [, id = '', at = ''] = row?.key.split('/') ?? []
    const method = prepared.store['price-line'].get(id)?.breaks[Number(at)]?.method
    expect(method).toEqual({ kind: 'fixed', amount: '1.23' })
    expect((await drafts.discard(outcome.draft)).ok).toBe(true)

    const named = await loadReprice(
      look(),
      parseReprice({ only: field.replace('list:', 'in:'), rule: '+1%' }),
    )
    const all = await loadReprice(look(), parseReprice({ rule: '+1%' }))
    expect(named.counts.all).toBeGreaterThan(0)
    expect(named.counts.all).toBeLessThan(all.counts.all)
  })

  test.each([
    ['in:nowhere', { only: 'in:nowhere' }, 'only'],
    ['list:fennmor', { field: 'list:fennmor' }, 'field'],
    ['a currency that is not taken', { field: 'basePrice@XXX' }, 'field'],
    ['an amount nobody has', { from: 'profit' }, 'from'],
  ])('%s is refused where it stands', async (_, fields, field) => {
    const { problem, rows } = await loadReprice(look(), parseReprice({ ...fields, rule: '+1%' }))
    expect([problem?.field, rows]).toEqual([field, []])
  })

  test('what is wrong is told by the field', async () => {
    expect(await loadReprice(look(), parseReprice({ of: 'Framse', rule: '+4%' }))).toMatchObject({
      problem: { field: 'of' },
      rows: [],
    })
    expect(await loadReprice(look(), parseReprice({ rule: 'dearer' }))).toMatchObject({
      problem: { field: 'rule' },
      isAsked: false,
    })
  })
})

describe('a draft', () => {
  const moved = async () => ({
    impacts: await draftImpact(draft),
    before: draft.draft.live.store,
    after: draft.prepared.store,
    names: ['Live', 'Draft'] as const,
  })

  test('its review, its bar and its file count the same prices', async () => {
    const review = await loadReview(draft, parseReview({}))
    const file = Papa.parse<Record<string, string>>(impactTable(await moved()), {
      header: true,
      skipEmptyLines: true,
    })
    expect(file.errors).toEqual([])
    expect(file.data).toHaveLength(review.moved)
    expect(file.data.filter((row) => row['Above public price'] === 'yes')).toHaveLength(0)
    const guests = file.data.find(
      (row) => row['Buyers'] === 'Guests' && row['SKU'] === 'FR-BR-PF' && row['Currency'] === 'EUR',
    )
    // 26.90 ÷ 25.90 = 1.0386.
    expect(guests).toMatchObject({ 'Live price': '25.9', 'Draft price': '26.9', 'Change %': '3.9' })
    const bar = await loadDrafts(lookThrough())
    expect(bar.current).toMatchObject({
      moved: review.moved,
      changes: review.changes.length,
      marginAfter: review.all.marginAfter,
      belowCost: review.belowCost,
      brokenProofs: review.proofs.broken.filter(({ isBrokenLive }) => !isBrokenLive).length,
    })
    expect(review.proofs.broken.map(({ sentence }) => sentence).join()).toContain('Fennmoor')
    expect(review.classes.reduce((all, { moved }) => all + moved, 0)).toBe(review.moved)
  })

  // Read back by another library than wrote it.
  test('its spreadsheet has the rows of its CSV file, with amounts as numbers', async () => {
    const file = Papa.parse<string[]>(impactTable(await moved()).slice(1), { skipEmptyLines: true })
    const sheet = await impactSheet(await moved())
    const [{ data: rows } = { data: [] }] = await readExcel(Buffer.from(sheet ?? new Uint8Array()))
    expect(rows).toHaveLength(file.data.length)
    for (const [at, row] of rows.entries())
      expect(row.map((each) => (each === null ? '' : String(each)))).toEqual(
        file.data[at]?.map((each) => each.trim()),
      )
    expect(typeof rows[1]?.[5]).toBe('number')
  })

  test('a class opened shows its prices, and its address leads back to it', async () => {
    const [first] = (await loadReview(draft, parseReview({}))).classes
    const href = reviewHref(reviewAddress('reprice'), { who: first?.key ?? '', isWhole: true })
    const shown = parseReview(Object.fromEntries(new URL(href, 'http://x').searchParams))
    const { opened } = await loadReview(draft, shown)
    expect(opened?.key).toBe(first?.key)
    expect(opened?.rows).toHaveLength(first?.moved ?? -1)
  })

  test('its place lists it beside the history, and opens a change into what it did', async () => {
    const page = await loadDraftsPage(steppe, { opened: null, before: null })
    expect(page.drafts).toMatchObject([
      { code: 'reprice', changes: draft.draft.changes.length, conflicts: 0 },
    ])
    const [latest] = page.history
    expect(latest).toMatchObject({ id: steppe.lastChangeSet, changes: null })
    const opened = await loadDraftsPage(steppe, { opened: latest?.id ?? 0, before: null })
    expect(opened.history[0]?.changes?.length).toBe(Math.min(200, latest?.records ?? 0))
    const first = await loadDraftsPage(steppe, { opened: null, before: 2 })
    expect(first.history.map(({ id, isFirst }) => [id, isFirst])).toEqual([[1, true]])
    expect(first.older).toBeNull()
  })

  test('what it breaks stands beside what holds live', async () => {
    const { draftCounts, counts, groups } = await loadProofs(lookThrough())
    const rows = groups.flatMap((group) => group.rows)
    expect(rows.filter(({ live }) => live.state === 'holds')).toHaveLength(counts.holds)
    expect(draftCounts?.holds).toBe(counts.holds - 1)
    const broken = rows.find(
      ({ live, draft: inDraft }) => live.state === 'holds' && inDraft?.state === 'broken',
    )
    expect(broken?.sentence).toContain('Fennmoor')
    expect(broken?.broken[0]).toMatchObject({
      who: 'Fennmoor Honey Farm',
      title: expect.stringContaining('Brood frames'),
    })
  })
})

describe('two instants', () => {
  const between = (since: string, until: string) => loadBetween(look(), { since, until }, parseReview({}))

  test('what the calendar is going to move is told before it comes, and what moved after', async () => {
    // On 1 March 2027 the spring list begins; nothing else does in the week around it.
    const view = await between('2027-02-27T12:00:00Z', '2027-03-02T12:00:00Z')
    expect(view.moved).toBeGreaterThan(0)
    expect(view.classes.reduce((all, { moved }) => all + moved, 0)).toBe(view.moved)
    expect(view.note).toContain('What lies ahead')
    const guests = view.classes.find(({ as, currency }) => as === 'guest' && currency === null)
    const opened = await loadBetween(
      look(),
      { since: view.since, until: view.until },
      parseReview({ who: guests?.key ?? '', all: '1' }),
    )
    const first = opened.opened?.rows.find(({ from }) => from === '')
    for (const [on, price] of [
      [view.since, first?.before],
      [view.until, first?.after],
    ] as const) {
      const course = await loadPriceHistory(look('guest', { on }), { sku: first?.sku ?? '', months: 24 })
      expect(course.then?.price).toBe(`€${price}`)
    }
    expect((await between('2027-02-27T12:00:00Z', '2027-02-28T12:00:00Z')).moved).toBe(0)
  })

  test('the other way round is the same, and before the store began there is nothing to compare', async () => {
    const [there, back] = [
      await between('2026-02-25T00:00:00Z', '2026-11-25T00:00:00Z'),
      await between('2026-11-25T00:00:00Z', '2026-02-25T00:00:00Z'),
    ]
    expect(back).toEqual(there)
    expect((await between('1999-01-01T00:00:00Z', '2026-11-25T00:00:00Z')).note).toContain('The store began')
  })
})

describe('findings', () => {
  const ALL = { place: null, open: null, muted: false }

  test('each place has as many as it counts, and together they are all that the frame counts', async () => {
    const view = await loadFindings(look(), ALL)
    expect(view.all).toBe(await countFindings(look()))
    expect(view.rows).toHaveLength(view.all)
    expect(view.places.length).toBeGreaterThan(1)
    for (const { place, count } of view.places) {
      const shown = await loadFindings(look(), { ...ALL, place })
      expect(shown.rows.map((row) => row.place)).toEqual(Array(count).fill(place))
    }
    expect(view.places.reduce((all, { count }) => all + count, 0)).toBe(view.all)
  })

  test('one that is opened tells its cases by the name their item has in the shop', async () => {
    const view = await loadFindings(look(), ALL)
    const below = view.rows.find(({ sentence }) => sentence.includes('below cost'))
    const opened = (await loadFindings(look(), { ...ALL, open: below?.key ?? '' })).rows.find(
      ({ key }) => key === below?.key,
    )
    expect(opened?.cases).toHaveLength(Math.min(60, below?.count ?? 0))
    for (const { price, beside, title } of opened?.cases ?? []) {
      expect(title).not.toBe('')
      expect(Number(price.replace(/[^0-9.]/g, ''))).toBeLessThan(Number(beside.replace(/[^0-9.]/g, '')))
    }
  })
})

test('the calendar tells what starts next, and what has between now and a day looked from', async () => {
  const view = await loadCalendar(look())
  expect(view.looked).toBeNull()
  expect(view.next.map(({ name }) => name)).toContain('Spring build-up 2027')
  const later = await loadCalendar(look('guest', { on: '2027-03-02T12:00Z' }))
  expect(later.looked).toMatchObject({ days: 97 })
  expect(later.started.map(({ name }) => name)).toContain('Spring build-up 2027')
  expect(later.next.map(({ name }) => name)).not.toContain('Spring build-up 2027')
  expect(
    (await loadCalendar(lookThrough())).groups
      .flatMap(({ spans }) => spans)
      .filter(({ isOfDraft }) => isOfDraft),
  ).toEqual([])
})

describe('what decides the price of one item', () => {
  const lanes = async (as: BuyerCode, sku: string) => (await loadCalendar(look(as), sku)).item

  test('a lane for each list that has a say: what decides, what holds and is beaten, and what is left', async () => {
    const fennmoor = await lanes('account:fennmoor', 'FR-BR-PF')
    expect(fennmoor.title).toBe('Brood frames, Pine, flat-packed, 10')
    const byName = new Map(fennmoor.lanes.map(({ name, bars }) => [name, bars]))
    expect(byName.get('Fennmoor agreed prices')?.map(({ kind, words }) => [kind, words.slice(0, 6)])).toEqual(
      [['decides', '€21.65']],
    )
    expect(byName.get('Spring build-up 2027')).toMatchObject([
      { kind: 'beaten', words: 'another one decides, from 1 March 2027 to 1 June 2027' },
    ])
    // Guests pay what the spring list says while it holds, and the base price before and after.
    const guests = await lanes('guest', 'FR-BR-PF')
    expect(guests.lanes.map(({ name, bars }) => [name, bars.map(({ kind }) => kind)])).toEqual([
      ['Spring build-up 2027', ['decides']],
      ['Base price', ['base', 'base']],
    ])
    for (const { bars } of guests.lanes)
      for (const { from, to } of bars) expect(0 <= from && from < to && to <= 1).toBe(true)
  })

  test('a wrong SKU is told with the nearest, and none asked draws nothing', async () => {
    expect(await lanes('guest', 'FR-BR-PX')).toMatchObject({
      problem: 'There is no SKU “FR-BR-PX”. Did you mean FR-BR-PA?',
      lanes: [],
    })
    expect(await lanes('guest', ' ')).toMatchObject({ problem: '', lanes: [] })
  })
})

describe('the history of a price', () => {
  test('tells each step with its cause, and what was paid on a day', async () => {
    const view = await loadPriceHistory(look('guest', { on: '2026-03-03T12:00Z' }), {
      sku: 'FR-BR-PF',
      months: 24,
    })
    expect(view.problem).toBe('')
    expect(view.steps.map(({ price }) => price)).toEqual(['€24.90', '€25.90'])
    expect(view.steps[1]).toMatchObject({ change: '+1.00' })
    expect(view.then?.price).toBe('€24.90')
  })

  test('a code of a product, or a wrong one, is told with what is right', async () => {
    const product = await loadPriceHistory(look(), { sku: 'FR-BR', months: 12 })
    expect(product.problem).toContain('FR-BR is a product, sold as')
    const wrong = await loadPriceHistory(look(), { sku: 'FR-BR-PX', months: 12 })
    expect(wrong.problem).toBe('There is no SKU “FR-BR-PX”. Did you mean FR-BR-PA?')
    expect((await loadPriceHistory(look(), { sku: '', months: 12 })).problem).toBe('')
  })
})

// Last, since it writes into the past.
test('what is the matter with the store itself stands at its own place', async () => {
  // A tenth less for two months by now is the price, and no reduction from the base price.
  const { store } = liveView(steppe).prepared
  const at = new Date(now() - 60 * 86_400_000)
  const settings = store.settings.get('settings')!
  const week = [...store.adjustment.values()].find(({ code }) => code === 'november-week')!
  const change = (kind: 'settings' | 'adjustment', record: { readonly id: string }, fields: object) => ({
    kind,
    id: record.id,
    seen: revisionOf(liveView(steppe), kind, record.id),
    after: { ...record, ...fields },
  })
  const outcome = await commit(
    liveView(steppe),
    [
      change('settings', settings, { comparedWith: 'base' }),
      change('adjustment', week, { schedule: ALWAYS }),
    ] as unknown as ChangeRequest[],
    { author: 'Maeve', at, note: 'always' },
  )
  expect(outcome.ok).toBe(true)
  const { rows } = await loadFindings(look(), { place: 'Store', open: null, muted: false })
  expect(rows.map(({ sentence, fix }) => [sentence.slice(0, 26), fix])).toEqual([
    ['prices are struck through ', 'Strike through that price'],
  ])
  if (outcome.ok)
    await undo(liveView(steppe), outcome.changeSet, { author: 'Maeve', at: new Date(now()), note: 'back' })
})
