import 'server-only'

import type { Refusal } from '@/core/store/refusal'
import { meansTheSame } from '@/core/store/same-meaning'
import type { CommitOutcome } from './commit-outcome'
import type { UndoOutcome } from './history'

type Refused = Exclude<CommitOutcome | UndoOutcome, { readonly ok: true }>

/** What the commit door would not take, as something a screen can say. */
export function toRefusal(outcome: Refused): Refusal {
  switch (outcome.code) {
    case 'invalid':
      return { code: 'invalid', issues: outcome.issues }
    case 'stale': {
      const [first] = outcome.conflicts
      return {
        code: 'stale',
        label: first?.label ?? '',
        fields: differing(first?.current ?? null, first?.submitted ?? null),
      }
    }
    case 'unknown-change-set':
      return { code: 'unknown', what: 'change', value: '', nearest: null }
    case 'no-such-draft':
      return { code: 'no-such-draft', draft: outcome.draft }
    case 'back-already':
      return { code: 'back-already', label: outcome.label }
    case 'disk-full':
      return { code: 'disk-full' }
    case 'unreadable':
      return { code: 'unreadable', why: outcome.why }
    case 'out-of-reach':
      return { code: 'out-of-reach', why: outcome.why, label: outcome.label }
    case 'drafts-only':
      return { code: 'drafts-only' }
    case 'nothing-to-change':
      return { code: 'nothing-to-change' }
  }
}

/** The fields in which a record differs from another version of it. */
function differing(record: object | null, other: object | null) {
  if (record === null || other === null) return []
  const others = other as Record<string, unknown>
  return Object.entries(record)
    .filter(([field, value]) => !meansTheSame(value, others[field]))
    .map(([field, value]) => ({ field, current: plainText(value), submitted: plainText(others[field]) }))
}

function plainText(value: unknown): string | null {
  return typeof value === 'string' || typeof value === 'number' ? String(value) : null
}
