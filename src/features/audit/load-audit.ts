import 'server-only'

import { getSettings } from '@/core/store/store'
import { getSteppe } from '@/server/engine/steppe'
import { AUDIT_KINDS, type AuditKind, listAudit } from '@/server/staff/audit'
import { liveView } from '@/server/views/view'
import { formatMoment } from '@/ui/format/instant'
import { auditSentence, kindWords } from './audit-sentences'

const ON_A_PAGE = 100

export interface AuditShown {
  readonly kind: AuditKind | null
  readonly words: string
  readonly before: number | null
}

export interface AuditView {
  readonly shown: AuditShown
  readonly kinds: readonly { readonly kind: AuditKind; readonly words: string }[]
  readonly rows: readonly {
    readonly id: number
    readonly when: string
    readonly who: string
    readonly did: string
    readonly address: string
    readonly isRefusal: boolean
  }[]
  readonly older: number | null
}

export function parseAudit(fields: Readonly<Record<string, string | undefined>>): AuditShown {
  const before = Number(fields['before'])
  return {
    kind: AUDIT_KINDS.find((kind) => kind === fields['kind']) ?? null,
    words: (fields['words'] ?? '').trim().slice(0, 100),
    before: Number.isSafeInteger(before) && before > 0 ? before : null,
  }
}

/** What happened at the doors, the latest first. */
export async function loadAudit(shown: AuditShown): Promise<AuditView> {
  const steppe = await getSteppe()
  const { timeZone } = getSettings(liveView(steppe).prepared.store)
  const found = await listAudit(steppe.database, { ...shown, since: null }, ON_A_PAGE + 1)
  const page = found.slice(0, ON_A_PAGE)
  return {
    shown,
    kinds: AUDIT_KINDS.map((kind) => ({ kind, words: kindWords(kind) })),
    rows: page.map((event) => ({
      ...{ id: event.id, address: event.address, did: auditSentence(event) },
      who: event.who === '' ? 'Somebody' : event.who,
      when: formatMoment(event.at.getTime(), timeZone),
      isRefusal: event.kind === 'refused' || event.kind === 'sign-in-refused',
    })),
    older: found.length > ON_A_PAGE ? (page.at(-1)?.id ?? null) : null,
  }
}
