'use server'

import type { Vantage } from '@/core/engine/vantage'
import { codeFromName } from '@/core/store/code-from-name'
import { labelOf } from '@/core/store/references'
import type { Store } from '@/core/store/store'
import { type ChangeRequest, commit, type CommitOutcome } from '@/server/changes/commit'
import { checkVantages } from '@/server/changes/check-amount-edits'
import { undo, undoNote } from '@/server/changes/history'
import { toRefusal } from '@/server/changes/to-refusal'
import { lookFrom } from '@/server/engine/look-from'
import { getPrepared, getSteppe } from '@/server/engine/steppe'
import { asMerchant, currentAuthor } from '@/server/session/author'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { recordHref } from '@/ui/frame/record-href'
import type { SheetOutcome } from '@/ui/frame/use-sheet'
import { refresh } from 'next/cache'
import { randomUUID } from 'node:crypto'
import { copiedLines, copiedLists } from './copy-record'
import type { Fields } from './field-rule'
import { asCopy, beginning, findRecord, isPutAway, loadRecord } from './load-record'
import { RECORD_FIELDS } from './record-fields'
import type { RecordView } from './record-view'
import { type EditableKind, findSection, sectionOf } from './sections'
import { currentInstant } from '@/server/clock'

type Outcome = SheetOutcome<RecordView>

/** The sheet an edit was made on. */
export interface RecordReference {
  readonly kind: EditableKind
  readonly id: string
  readonly label: string
  readonly revision: number | null
  readonly vantage: Vantage
}

/** Changes one field, given as text. */
export async function editField(sheet: RecordReference, field: string, text: string): Promise<Outcome> {
  await asMerchant()
  const steppe = await getSteppe()
  const { store } = getPrepared(steppe)
  const record = currentOf(store[sheet.kind], sheet.id)
  const rule = RECORD_FIELDS[sheet.kind].find((each) => each.field === field)
  if (!record || !rule) return gone(sheet)
  const read = rule.read(text, record, store)
  if (!read.ok) return read
  return save(
    sheet,
    { ...record, ...read.value },
    `${String(record['name'] ?? sheet.label)}: ${rule.name.toLowerCase()} changed`,
  )
}

/** Makes a record from the texts of its fields; fields left out begin as they would, or as those of `copyOf`. */
export async function createRecord(
  kind: EditableKind,
  texts: Readonly<Record<string, string>>,
  copyOf: string | null,
): Promise<{ readonly ok: true; readonly href: string } | { readonly ok: false; readonly problem: string }> {
  await asMerchant()
  if (!findSection(sectionOf(kind)?.path ?? ''))
    return { ok: false, problem: 'Nothing of that kind can be made here.' }
  const steppe = await getSteppe()
  const { store } = getPrepared(steppe)
  const source = copyOf === null ? null : findRecord(store, kind, copyOf)
  let record: Fields = source ? asCopy(kind, source) : beginning(store, kind)
  const problems: string[] = []
  for (const rule of RECORD_FIELDS[kind]) {
    const text = texts[rule.field]
    if (text === undefined || text === rule.write(record, store)) continue
    const read = rule.read(text, record, store)
    if (read.ok) record = { ...record, ...read.value }
    else problems.push(`${rule.name}: ${read.problem}`)
  }
  if (record['code'] === '' && record['name'])
    record = { ...record, code: freeCode(store, kind, String(record['name'])) }
  // Whom a list of a contract is for, the contract says.
  if (kind === 'price-list' && record['purpose'] === 'contract' && !source && texts['audience'] === undefined)
    record = { ...record, audience: { include: [], exclude: [] } }
  if (kind === 'variant' && !record['product']) problems.push('Product: name the product it belongs to.')
  if (problems.length > 0) return { ok: false, problem: problems.join(' ') }
  // A currency is known by its code everywhere, so that is its id.
  const id = kind === 'currency' ? String(record['code']) : randomUUID()
  const copied = source ? copiedParts(store, kind, source, { ...record, id }) : null
  const after = { ...record, id, ...copied?.fields }
  const requests = [{ kind, id, seen: null, after } as unknown as ChangeRequest, ...(copied?.requests ?? [])]
  const outcome = await commit(steppe, requests, {
    author: await currentAuthor(),
    note: `New ${sectionOf(kind).singular} ${String(record['name'] ?? record['sku'] ?? record['code'])}`,
    at: currentInstant(),
  })
  if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
  // The menu counts what there is.
  refresh()
  return { ok: true, href: recordHref(sectionOf(kind).path, labelOf(kind, after as never)) }
}

function freeCode(store: Store, kind: EditableKind, name: string): string {
  return codeFromName(name, (code) => findRecord(store, kind, code) !== null, kind)
}

/** What a copy takes along that lies in records of its own. */
function copiedParts(store: Store, kind: EditableKind, source: Fields, copy: Fields) {
  const [id, copyId] = [String(source['id']), String(copy['id'])]
  if (kind === 'price-list') return { fields: {}, requests: copiedLines(store, id, copyId) }
  if (kind !== 'contract') return null
  const lists = copy['lists'] as readonly string[]
  const copied = copiedLists(store, id, lists, String(copy['name']))
  return { fields: { lists: copied.lists }, requests: copied.requests }
}

/** Puts a record away, or brings it back. */
export async function archiveRecord(sheet: RecordReference): Promise<Outcome> {
  await asMerchant()
  const { store } = getPrepared(await getSteppe())
  const record = currentOf(store[sheet.kind], sheet.id)
  if (!record) return gone(sheet)
  const back = isPutAway(sheet.kind, record)
  const change =
    sheet.kind === 'contract' ? { state: back ? 'draft' : 'ended' } : { status: back ? 'active' : 'archived' }
  return save(sheet, { ...record, ...change }, `${sheet.label} ${back ? 'restored' : 'archived'}`)
}

/** Takes a record away for good, where nothing speaks of it. */
export async function removeRecord(
  sheet: RecordReference,
): Promise<{ readonly ok: true; readonly href: string } | { readonly ok: false; readonly problem: string }> {
  await asMerchant()
  const steppe = await getSteppe()
  const { store } = getPrepared(steppe)
  const rates =
    sheet.kind === 'currency'
      ? [...store['exchange-rate'].values()].filter(({ currency }) => currency === sheet.id)
      : []
  const requests = [
    ...rates.map(({ id }) =>
      removal(steppe.revisions.get(`exchange-rate/${id}`) ?? null, 'exchange-rate', id),
    ),
    removal(sheet.revision, sheet.kind, sheet.id),
  ]
  const outcome = await commit(steppe, requests, {
    author: await currentAuthor(),
    note: `${sheet.label} removed`,
    at: currentInstant(),
  })
  if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
  refresh()
  return { ok: true, href: `/${sectionOf(sheet.kind).path}` }
}

/** Adds a rate of a currency from now on. */
export async function addRate(sheet: RecordReference, typed: string): Promise<Outcome> {
  await asMerchant()
  const steppe = await getSteppe()
  const { store } = getPrepared(steppe)
  const id = randomUUID()
  const per = store.settings.get('settings')?.currency ?? ''
  const after = {
    id,
    currency: sheet.id,
    per,
    rate: typed.trim(),
    from: currentInstant().toISOString(),
    source: 'manual' as const,
  }
  const request: ChangeRequest = { kind: 'exchange-rate', id, seen: null, after }
  return shownNow(
    sheet,
    await commit(steppe, [request], await note(`Rate 1 ${per} = ${typed.trim()} ${sheet.id}`)),
  )
}

/** Takes a change of the record's history back. */
export async function takeBackOnRecord(sheet: RecordReference, changeSet: number): Promise<Outcome> {
  await asMerchant()
  const outcome = await undo(
    await getSteppe(),
    changeSet,
    await note(await undoNote(await getSteppe(), changeSet)),
  )
  if (!outcome.ok && outcome.code === 'unknown-change-set')
    return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
  return shownNow(sheet, outcome as CommitOutcome)
}

function removal(seen: number | null, kind: ChangeRequest['kind'], id: string): ChangeRequest {
  return { kind, id, seen, after: null } as ChangeRequest
}

async function note(text: string) {
  return { author: await currentAuthor(), note: text, at: currentInstant() }
}

function currentOf(records: ReadonlyMap<string, unknown>, id: string): Fields | null {
  return (records.get(id) as Fields | undefined) ?? null
}

async function save(sheet: RecordReference, after: Fields, text: string): Promise<Outcome> {
  const request = { kind: sheet.kind, id: sheet.id, seen: sheet.revision, after } as unknown as ChangeRequest
  return shownNow(sheet, await commit(await getSteppe(), [request], await note(text)))
}

async function shownNow(sheet: RecordReference, outcome: CommitOutcome): Promise<Outcome> {
  if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
  const wrong = checkVantages([sheet.vantage])
  if (wrong) return { ok: false, problem: wrong }
  const { store } = getPrepared(await getSteppe())
  const record = currentOf(store[sheet.kind], sheet.id)
  const label = record ? labelOf(sheet.kind, record as never) : sheet.label
  const view = await loadRecord(await lookFrom(sheet.vantage), sheet.kind, label)
  return view ? { ok: true, view } : gone(sheet)
}

function gone({ kind, label }: RecordReference): Extract<Outcome, { ok: false }> {
  return { ok: false, problem: `There is no ${sectionOf(kind).singular} “${label}” any more.` }
}
