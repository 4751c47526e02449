import type * as Drafts from '@/features/drafts/draft-actions'
import type * as Findings from '@/features/findings/finding-actions'
import type * as Records from '@/sheet/record/save/save-record'
import type * as Reprices from '@/features/reprice/put-into-draft'
import { worstFirst } from '@/core/finding/find-findings'
import { calendarFeed } from '@/features/calendar/calendar-feed'
import { commit } from '@/server/changes/commit'
import { priceCourse } from '@/server/changes/price-course'
import type { ChangeRequest } from '@/server/changes/weigh'
import { currentInstant } from '@/server/clock'
import { drafts as draftTable } from '@/server/database/schema'
import { findDraft, openDrafts } from '@/server/drafts/draft-rows'
import { draftStores } from '@/server/drafts/draft-stores'
import type { Steppe } from '@/server/engine/steppe'
import { answerQuestion } from '@/server/exchange/price-questions'
import { findingsOf } from '@/server/findings/findings'
import { mutesAt } from '@/server/findings/mutes'
import { latestRuns, runProofs } from '@/server/proofs/proof-runs'
import { liveView, revisionOf } from '@/server/views/view'
import { getView } from '@/server/views/views'
import { DEFAULT_VANTAGE } from '@/ui/frame/vantage-url'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { eq } from 'drizzle-orm'
import ICAL from 'ical.js'
import { demoSteppe } from './demo-steppe'
import { jestOf, standInForFramework } from './framework'

// What a page's address says of the draft that is looked through.
let draftInAddress = ''
standInForFramework(jestOf(import.meta), () => ({ 'x-steppe-draft': draftInAddress }))

const demo = demoSteppe()
let steppe: Steppe
let drafts: typeof Drafts
let findings: typeof Findings
let reprices: typeof Reprices
let records: typeof Records
beforeAll(async () => {
  steppe = demo.current
  const holder = globalThis as { [key: symbol]: unknown }
  holder[Symbol.for('steppe.running')] = Promise.resolve(steppe)
  drafts = await import('@/features/drafts/draft-actions')
  findings = await import('@/features/findings/finding-actions')
  reprices = await import('@/features/reprice/put-into-draft')
  records = await import('@/sheet/record/save/save-record')
})
beforeEach(() => {
  draftInAddress = ''
})

const live = () => liveView(steppe)
const through = (code: string) => getView(steppe, { kind: 'draft', code })

test('a rule reprices into a draft, with rows left out and typed over; nothing is live', async () => {
  const number = steppe.lastChangeSet
  const id = (code: string) =>
    [...live().prepared.store.product.values()].find((each) => each.code === code)?.id ?? ''
  const outcome = await reprices.putIntoDraft({
    fields: { of: 'Frames', rule: '+4%', ending: 'ends .90' },
    leftOut: [`product/${id('FR-BR')}`],
    typed: { [`product/${id('FR-DR')}`]: '20,50' },
  })
  expect(outcome).toMatchObject({ ok: true, draft: 'reprice' })
  expect(steppe.lastChangeSet).toBe(number)
  const { store } = (await through('reprice')).prepared
  expect(store.product.get(id('FR-BR'))?.basePrice).toBe('25.9')
  expect(store.product.get(id('FR-DR'))?.basePrice).toBe('20.5')
  // 24.80 + 4 % = 25.79, to the nearest .90.
  expect(store.product.get(id('FR-MN'))?.basePrice).toBe('25.9')

  expect(await reprices.putIntoDraft({ fields: { rule: '-100%' }, leftOut: [], typed: {} })).toMatchObject({
    ok: false,
  })
  expect(await reprices.putIntoDraft({ fields: { rule: 'm100' }, leftOut: [], typed: {} })).toMatchObject({
    ok: false,
    problem: expect.stringContaining('below 100 %'),
  })
  expect(
    await reprices.putIntoDraft({ fields: { rule: '+4%; 20: +3%; 10: +2%' }, leftOut: [], typed: {} }),
  ).toMatchObject({
    ok: false,
    problem: 'Steps rise: 10 comes after 20.',
  })
  // While the draft is looked through, more goes into it.
  draftInAddress = 'reprice'
  expect(
    await reprices.putIntoDraft({ fields: { of: 'Smokers', rule: '+10%' }, leftOut: [], typed: {} }),
  ).toMatchObject({
    draft: 'reprice',
  })
  expect(await drafts.discard('reprice')).toMatchObject({ ok: true })
})

test('what is put in is told line by line, and who stops reading calls all of it off', async () => {
  const { sendReprice } = await import('@/features/reprice/send-reprice')
  const codes = async () => (await openDrafts(steppe.database)).map(({ code }) => code)
  const before = await codes()
  const wanted = { fields: { rule: '+3%' }, leftOut: [], typed: {} }
  const lines = (await sendReprice(wanted).text()).trim().split('\n')
  const said = lines.map((line) => JSON.parse(line) as Record<string, unknown>)
  const outcome = said.at(-1) as { readonly draft: string; readonly count: number }
  expect(outcome).toMatchObject({ ok: true, draft: expect.stringMatching(/^reprice/) })
  expect(said[0]).toEqual({ stage: 'checking', done: expect.any(Number), of: outcome.count })
  expect(await codes()).toEqual([...before, outcome.draft])
  expect(await drafts.discard(outcome.draft)).toMatchObject({ ok: true })

  const discarded = () => steppe.database.$count(draftTable, eq(draftTable.state, 'discarded'))
  const ended = await discarded()
  await sendReprice(wanted).body?.cancel()
  // The draft that was begun for it is discarded.
  while ((await discarded()) === ended) await new Promise((resolve) => setTimeout(resolve, 5))
  expect(await codes()).toEqual(before)
  // Whatever calls it off, nothing is half there.
  await expect(
    reprices.putIntoDraft(wanted, () => {
      throw new Error('stop')
    }),
  ).rejects.toThrow('stop')
  expect(await codes()).toEqual(before)
  expect(reprices.parseWanted({ ...wanted, typed: { x: 1 } })).toBeNull()
  expect(reprices.parseWanted(wanted)).toEqual(wanted)
})

test('a finding is put right in a draft, and then it is no more; another one is muted with a reason', async () => {
  const found = worstFirst(await findingsOf(live())).find(({ code }) => code === 'below-cost')
  const outcome = await findings.fixFinding(found?.key ?? '', null)
  if (!outcome.ok) throw new Error(outcome.problem)
  const { prepared } = await through(outcome.draft ?? '')
  expect(worstFirst(await findingsOf({ steppe, prepared })).map(({ key }) => key)).not.toContain(found?.key)
  expect(worstFirst(await findingsOf(live())).map(({ key }) => key)).toContain(found?.key)
  expect(await findings.fixFinding('gone/long/ago', null)).toMatchObject({ ok: false })
  await drafts.discard(outcome.draft ?? '')

  const key = found?.key ?? ''
  expect(await findings.muteFinding(key, '2099-01-01', '')).toMatchObject({ ok: false, field: 'reason' })
  expect(await findings.muteFinding(key, '2020-01-01', 'known')).toMatchObject({ ok: false, field: 'until' })
  expect(await findings.muteFinding(key, '2099-01-01', 'sold off on purpose')).toMatchObject({ ok: true })
  expect((await mutesAt(steppe, currentInstant())).get(key)?.reason).toBe('sold off on purpose')
  expect((await mutesAt(steppe, new Date('2099-06-01'))).has(key)).toBe(false)
  await findings.unmuteFinding(key)
  expect((await mutesAt(steppe, currentInstant())).has(key)).toBe(false)
})

test('a draft that breaks a proof is published only with a reason, which is kept', async () => {
  expect(await drafts.startDraft('  ')).toMatchObject({ ok: false })
  const started = await drafts.startDraft('Timber')
  if (!started.ok) throw new Error(started.problem)
  const code = started.draft ?? ''
  const view = await through(code)
  const record = [...view.prepared.store.product.values()].find((each) => each.code === 'FR-BR')!
  const request = {
    kind: 'product',
    id: record.id,
    seen: revisionOf(view, 'product', record.id),
    after: { ...record, basePrice: '26.90' },
  }
  await commit(view, [request] as unknown as ChangeRequest[], {
    author: 'Maeve',
    at: currentInstant(),
    note: 'up',
  })

  const question = { id: 'q', as: { account: 'fennmoor' }, sku: 'FR-BR-PF' }
  const now = Date.parse('2026-11-25T10:00:00Z')
  const stores = await draftStores(steppe)
  const answer = (more: object) =>
    answerQuestion(live().prepared, { ...question, ...more }, now, { drafts: stores })
  expect(answer({})).toMatchObject({ unit: { net: '21.65' } })
  expect(answer({ in: 'draft:timber' })).toMatchObject({ unit: { net: '22.45' } })
  expect(answer({ in: 'draft:timbr' })).toMatchObject({
    error: { code: 'unknown-draft', nearest: 'draft:timber' },
  })

  expect(await drafts.publishNow(code, '', '')).toMatchObject({
    ok: false,
    problem: expect.stringContaining('Brood frames for Fennmoor'),
  })
  expect(await findDraft(steppe.database, code)).not.toBeNull()
  expect(await drafts.planPublication(code, '2020-01-01T00:00:00Z', '')).toMatchObject({
    ok: false,
    problem: expect.stringContaining('That time is over'),
  })
  expect(await drafts.publishNow(code, 'timber round', 'Fennmoor agreed')).toMatchObject({ ok: true })
  const last = await steppe.database.query.changeSets.findFirst({ orderBy: (set, { desc }) => desc(set.id) })
  expect(last?.note).toBe('Draft “Timber”: timber round (breaks Brood frames for Fennmoor: Fennmoor agreed)')

  // The price's history tells it, and it can be taken back exactly.
  const asked = {
    from: buyerContext({ kind: 'guest' }, currentInstant().getTime()),
    variant: [...live().prepared.store.variant.values()].find(({ sku }) => sku === 'FR-BR-PF')!.id,
    quantity: 1000,
  }
  const course = await priceCourse(steppe, asked, {
    start: Date.parse('2026-02-01'),
    end: currentInstant().getTime() + 1000,
  })
  expect(course.steps.map(({ price }) => price)).toEqual(['24.9', '25.9', '26.9'])
  expect(course.steps.at(-1)?.cause).toMatchObject({
    kind: 'change',
    note: expect.stringContaining('timber round'),
  })
  expect(await drafts.reverseChange(last?.id ?? 0)).toMatchObject({ ok: true })
  expect(live().prepared.store.product.get(record.id)?.basePrice).toBe('25.9')
})

test('a store that is changed by drafts takes changes through them alone, and publishes and undoes as ever', async () => {
  const settings = () => live().prepared.store.settings.get('settings')!
  const saved = async (publishing: string) => {
    const sheet = {
      kind: 'settings',
      id: 'settings',
      label: 'store',
      revision: revisionOf(live(), 'settings', 'settings'),
      vantage: DEFAULT_VANTAGE,
      copyOf: null,
    } as const
    return records.saveRecord(sheet, { publishing })
  }
  expect(await saved('by-draft')).toMatchObject({ ok: true })
  expect(settings().publishing).toBe('by-draft')
  const number = steppe.lastChangeSet
  // Nothing counts at once any more, not even going back.
  expect(JSON.stringify(await saved('as-you-go'))).toContain('This store is changed by drafts')
  expect(steppe.lastChangeSet).toBe(number)
  expect(
    await reprices.putIntoDraft({ fields: { of: 'Smokers', rule: '+10%' }, leftOut: [], typed: {} }),
  ).toMatchObject({
    draft: 'reprice',
  })
  await drafts.discard('reprice')

  const started = await drafts.startDraft('Back')
  if (!started.ok) throw new Error(started.problem)
  draftInAddress = started.draft ?? ''
  expect(await saved('as-you-go')).toMatchObject({ ok: true })
  expect(settings().publishing).toBe('by-draft')
  expect(await drafts.publishNow(draftInAddress, '', '')).toMatchObject({ ok: true })
  draftInAddress = ''
  expect(settings().publishing).toBe('as-you-go')
  expect(await drafts.reverseChange(steppe.lastChangeSet)).toMatchObject({ ok: true })
  expect(await drafts.reverseChange(steppe.lastChangeSet)).toMatchObject({ ok: true })
  expect(settings().publishing).toBe('as-you-go')
})

test('proofs are asked nightly, and only what changed is noted down', async () => {
  await runProofs(steppe, new Date('2026-11-25T03:00:00Z'))
  const first = await latestRuns(steppe)
  expect(first.map(({ proof }) => proof)).toContain('proof-fennmoor-frames')
  await runProofs(steppe, new Date('2026-11-26T03:00:00Z'))
  expect(await latestRuns(steppe)).toEqual(first)
})

// Source: RFC 5545, read back by ical.js.
test('the calendar feed is one that another program reads', async () => {
  const calendar = new ICAL.Component(ICAL.parse(await calendarFeed(steppe)) as unknown as string)
  expect(calendar.getFirstPropertyValue('version')).toBe('2.0')
  const events = calendar.getAllSubcomponents('vevent').map((each) => new ICAL.Event(each))
  expect(new Set(events.map(({ uid }) => uid)).size).toBe(events.length)
  const starts = events.find(({ summary }) => summary === 'Spring build-up 2027 starts')
  expect(starts?.startDate.toJSDate().toISOString()).toBe('2027-03-01T00:00:00.000Z')
  // Midnight in Dublin is eleven in the evening before, in summer.
  const ends = events.find(({ summary }) => summary === 'Spring build-up 2027 ends')
  expect(ends?.startDate.toJSDate().toISOString()).toBe('2027-05-31T23:00:00.000Z')
})

test('a change set that is gone, or a record of no kind, is refused', async () => {
  expect(await drafts.reverseChange(999_999)).toMatchObject({ ok: false })
  expect(await drafts.reverseInDraft(999_999)).toMatchObject({ ok: false })
  expect(await drafts.takeOutOfDraft('nobody', [{ kind: 'product', id: 'x' }])).toMatchObject({ ok: false })
  expect(await drafts.takeOutOfDraft('nobody', [{ kind: 'nothing' as never, id: 'x' }])).toMatchObject({
    ok: false,
  })
  expect(await openDrafts(steppe.database)).toEqual([])
})
