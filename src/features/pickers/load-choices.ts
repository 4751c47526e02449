'use server'

import { getPrepared, getSteppe } from '@/server/engine/steppe'
import { asMerchant } from '@/server/session/author'
import type { WhoChoices } from '@/ui/picker/who-choices'
import { whoChoices } from './who-choices'

/** Everybody a rule can be for, for a picker that opens. */
export async function loadWhoChoices(): Promise<WhoChoices> {
  await asMerchant()
  return whoChoices(getPrepared(await getSteppe()).store)
}
