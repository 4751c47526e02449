import 'server-only'

import { isKeyScope, type KeyScope } from '@/core/staff/key-scope'
import { getSettings } from '@/core/store/store'
import { currentInstant } from '@/server/clock'
import { getSteppe } from '@/server/engine/steppe'
import { listKeys } from '@/server/staff/api-keys'
import { liveView } from '@/server/views/view'
import { formatMoment } from '@/ui/format/instant'

export interface ProgramView {
  readonly id: string
  readonly name: string
  readonly start: string
  readonly scopes: readonly KeyScope[]
  readonly perMinute: number
  readonly made: string
  readonly used: string
  /** "until 3 March 2027", "ended 2 December"; empty for one without an end. */
  readonly ends: string
  readonly isOver: boolean
}

/** The keys programs come in with, the latest first; those that are over come last. */
export async function loadPrograms(): Promise<readonly ProgramView[]> {
  const steppe = await getSteppe()
  const { timeZone } = getSettings(liveView(steppe).prepared.store)
  const now = currentInstant()
  const moment = (at: Date) => formatMoment(at.getTime(), timeZone)
  const views = (await listKeys(steppe)).map((key): ProgramView => {
    const { id, name, start, perMinute, madeBy, madeAt, lastUsed, expiresAt, revokedAt } = key
    const isOver = revokedAt !== null || (expiresAt !== null && expiresAt <= now)
    return {
      ...{ id, name, start, perMinute, isOver },
      scopes: key.scopes.filter(isKeyScope),
      made: `made by ${madeBy}, ${moment(madeAt)}`,
      used: lastUsed ? `last used ${moment(lastUsed)}` : 'never used',
      ends: revokedAt ? `ended ${moment(revokedAt)}` : expiresAt ? `until ${moment(expiresAt)}` : '',
    }
  })
  return [...views.filter(({ isOver }) => !isOver), ...views.filter(({ isOver }) => isOver)]
}
