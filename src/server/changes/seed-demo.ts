import 'server-only'

import type { RecordKind } from '@/core/issue/issue'
import { DEMO_AUTHOR, DEMO_LAST_LIST, DEMO_ROUNDS, DEMO_SET_UP } from '@/demo/demo-history'
import { demoCounts, demoRecords } from '@/demo/demo-store'
import type { Steppe } from '../engine/steppe'
import { countStock, type StockCount } from '../stock/move-stock'
import { noticeStock } from '../stock/notice-stock'
import { commit } from './commit'
import type { ChangeRequest } from './weigh'
import { liveTarget, revisionOf } from '../views/view'

type Draft = { readonly id: string } & Readonly<Record<string, unknown>>
type Overlay = ReadonlyMap<string, Readonly<Record<string, unknown>>>

/** Fills an empty store with the made-up merchant and a year of their changes. */
export async function seedDemo(steppe: Steppe): Promise<void> {
  const records = demoRecords()
  const drafts = Object.entries(records).flatMap(([kind, list]) =>
    (list as readonly Draft[]).map((draft) => ({ kind: kind as RecordKind, draft })),
  )
  const idOf = new Map<string, string>([
    ...records.variant.map(({ sku, id }) => [sku, id] as const),
    ...records.product
      .map(({ code, id }) => [code, id] as const)
      .filter(([code]) => !records.variant.some(({ sku }) => sku === code)),
  ])

  // What was true before the last round, before the last two rounds… down to the day of the set-up.
  const overlay = new Map<string, Record<string, unknown>>([
    [`list-${DEMO_LAST_LIST.code}`, { state: 'off' }],
  ])
  const moments: { readonly at: Date; readonly note: string; readonly overlay: Overlay }[] = [
    { at: DEMO_LAST_LIST.at, note: DEMO_LAST_LIST.note, overlay: new Map() },
  ]
  for (const round of [...DEMO_ROUNDS].reverse()) {
    moments.unshift({ at: round.at, note: round.note, overlay: new Map(overlay) })
    for (const [code, field, value] of round.before) {
      const id = idOf.get(code)
      if (id === undefined)
        throw new RangeError(`the demo's history speaks of ${code}, which is not in its catalogue`)
      overlay.set(id, { ...overlay.get(id), [field]: value })
    }
  }
  moments.unshift({ ...DEMO_SET_UP, overlay })

  for (const { at, note, overlay: differences } of moments) {
    const requests = drafts.map(({ kind, draft }) => ({
      kind,
      id: draft.id,
      seen: revisionOf(liveTarget(steppe), kind, draft.id),
      after: { ...draft, ...differences.get(draft.id) },
    }))
    const outcome = await commit(liveTarget(steppe), requests as unknown as readonly ChangeRequest[], {
      author: DEMO_AUTHOR,
      at,
      note,
    })
    if (!outcome.ok) throw new RangeError(`the demo cannot be stored: ${JSON.stringify(outcome)}`)
  }

  const counts = demoCounts().map((count): StockCount => ({ ...count, seen: null }))
  const note = { author: DEMO_AUTHOR, ...DEMO_SET_UP }
  await steppe.database.transaction((transaction) => countStock(transaction, counts, note))
  steppe.sync()
  await noticeStock(
    steppe,
    counts.map(({ variant }) => variant),
  )
}
