import 'server-only'

import { PERMISSIONS } from '@/core/staff/permission'
import { getSettings } from '@/core/store/store'
import { getSteppe } from '@/server/engine/steppe'
import type { Doer } from '@/server/session/doing'
import { passkeyHost } from '@/server/doors/own-address'
import { ownStanding } from '@/server/staff/own-account'
import { ownPasskeys } from '@/server/staff/passkeys'
import { liveView } from '@/server/views/view'
import { formatMoment } from '@/ui/format/instant'
import { whatSentence, whoSentence } from '@/ui/format/rule-phrases'
import type { MeView } from './me-page'

/** What whoever asks may do, and where they are signed in. */
export async function loadMe(doer: Doer): Promise<MeView> {
  const steppe = await getSteppe()
  const { store } = liveView(steppe).prepared
  const { timeZone } = getSettings(store)
  const standing = doer.id === null ? null : await ownStanding(steppe, doer.id)
  const passkeys = doer.id === null ? [] : await ownPasskeys(steppe, doer.id)
  const { name, email, role, permissions, narrowings } = doer
  return {
    ...{ name, email, role },
    permissions: PERMISSIONS.filter((each) => permissions.has(each)),
    narrowed: narrowings.flatMap(({ who, what }) => [
      ...(who ? [`Buyers: ${whoSentence(who, store)}.`] : []),
      ...(what ? [`Prices you change: ${whatSentence(what, store)}.`] : []),
    ]),
    isOpenDoor: doer.kind === 'open-door',
    hasSecondFactor: standing?.hasSecondFactor ?? false,
    passkeys: passkeys.map(({ id, name: called, since }) => ({
      ...{ id, name: called, since: formatMoment(since.getTime(), timeZone) },
    })),
    passkeyHost: passkeyHost(),
    windows: (standing?.windows ?? []).map(({ at, agent, address }) => ({
      when: formatMoment(at.getTime(), timeZone),
      about: [browserOf(agent), address].filter(Boolean).join(', '),
    })),
  }
}

/** A browser as people call it, told from what it says of itself. */
function browserOf(agent: string): string {
  const names = [
    [/Edg\//, 'Edge'],
    [/Firefox\//, 'Firefox'],
    [/Chrom(e|ium)\//, 'Chrome'],
    [/Safari\//, 'Safari'],
  ] as const
  return names.find(([pattern]) => pattern.test(agent))?.[1] ?? 'A browser'
}
