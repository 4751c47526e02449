'use server'

import { TEXT } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import { writeNamed } from '@/core/notation/named-text'
import { commit } from '@/server/changes/commit'
import { toRefusal } from '@/server/changes/to-refusal'
import { currentInstant } from '@/server/clock'
import { currentView } from '@/server/views/current-view'
import { currentAuthor } from '@/server/session/author'
import { beginning, requestsToMake } from '@/sheet/record/new-record'
import { type EditableKind, sectionOf } from '@/sheet/record/sections'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import type { MadeRecord } from '@/ui/picker/picker-sources'
import type { ChoiceSource } from '@/ui/picker/records/record-choices'
import { randomUUID } from 'node:crypto'
import { CHOICE_SOURCE } from './choice-source'
import { recordChoices } from './record-choices'

/** Makes a record with nothing but a name, for a picker in which it is missing. */
export const makeNamedRecord = merchantAction(
  'drafts:edit',
  [CHOICE_SOURCE, TEXT],
  async (from: ChoiceSource, name: string): Promise<MadeRecord> => {
    const view = await currentView()
    const { store } = view.prepared
    const makes = recordChoices(store, from).makes
    if (makes === null)
      return { ok: false, problem: 'This needs more than a name: make it on its own page first.' }
    const kind = from as Extract<EditableKind, 'account' | 'group' | 'price-list' | 'tax-class'>
    // A list that is made for a contract: whom it is for, the contract says.
    const start = { ...beginning(store, kind), name, ...(kind === 'price-list' && { purpose: 'contract' }) }
    const [request] = requestsToMake(store, kind, start, null, randomUUID())
    const outcome = await commit(view, [request], {
      author: await currentAuthor(),
      note: `New ${sectionOf(kind).singular} ${name}`,
      at: currentInstant(),
    })
    if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
    const records = outcome.after.store[kind]
    return {
      ok: true,
      choice: { value: writeNamed(records, request.id), name, about: 'new', isOwn: true },
    }
  },
)
