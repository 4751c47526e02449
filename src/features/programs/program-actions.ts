'use server'

import { isKeyScope, type KeyScope } from '@/core/staff/key-scope'
import { currentInstant } from '@/server/clock'
import { getSteppe } from '@/server/engine/steppe'
import { NUMBER, TEXT, TEXTS } from '@/server/session/argument-shapes'
import { currentAuthor } from '@/server/session/author'
import { merchantAction } from '@/server/session/permit'
import { requestAddress } from '@/server/session/request-address'
import { makeKey, revokeKey } from '@/server/staff/api-keys'
import { noteAudit } from '@/server/staff/audit'
import { refresh } from 'next/cache'

/** A key, shown once; or what is wrong, and at which field. */
export type KeyMade =
  | { readonly ok: true; readonly key: string }
  | { readonly ok: false; readonly problem: string; readonly field: 'name' | 'scopes' | 'perMinute' | 'days' }

const DAY = 86_400_000
const LONGEST_NAME = 80
const MOST_A_MINUTE = 100_000
const MOST_DAYS = 3_650

/** Makes a key for a program. `days` is for how long; 0 until it is ended by hand. */
export const makeProgramKey = merchantAction(
  'staff:manage',
  [TEXT, TEXTS, NUMBER, NUMBER],
  async (name: string, scopes: readonly KeyScope[], perMinute: number, days: number): Promise<KeyMade> => {
    const wrong = (field: Extract<KeyMade, { ok: false }>['field'], problem: string): KeyMade => ({
      ...{ ok: false, field, problem },
    })
    const given = name.trim()
    if (given === '' || given.length > LONGEST_NAME)
      return wrong('name', 'Say which program it is for, such as “Price board in the shop”.')
    if (scopes.length === 0 || !scopes.every(isKeyScope))
      return wrong('scopes', 'Choose at least one thing it may do.')
    if (!Number.isInteger(perMinute) || perMinute < 1 || perMinute > MOST_A_MINUTE)
      return wrong('perMinute', `Type a whole number from 1 to ${MOST_A_MINUTE.toLocaleString('en-IE')}.`)
    if (!Number.isInteger(days) || days < 0 || days > MOST_DAYS)
      return wrong(
        'days',
        `Type a whole number of days up to ${MOST_DAYS.toLocaleString('en-IE')}, or nothing.`,
      )
    const steppe = await getSteppe()
    const author = await currentAuthor()
    const key = await makeKey(steppe, {
      ...{ name: given, scopes, perMinute, madeBy: author },
      expiresAt: days === 0 ? null : new Date(currentInstant().getTime() + days * DAY),
    })
    await noteAudit(steppe.database, {
      ...{ kind: 'key-made', who: author, about: given, detail: scopes.join(', ') },
      address: await requestAddress(),
    })
    refresh()
    return { ok: true, key }
  },
)

/** Ends a key from this moment on. Resolves to what is wrong, or `null`. */
export const endProgramKey = merchantAction(
  'staff:manage',
  [TEXT],
  async (id: string): Promise<string | null> => {
    const steppe = await getSteppe()
    const ended = await revokeKey(steppe, id)
    if (ended === null) return 'This key has ended already. Reload the page.'
    await noteAudit(steppe.database, {
      ...{ kind: 'key-revoked', who: await currentAuthor(), about: ended, address: await requestAddress() },
    })
    refresh()
    return null
  },
)
