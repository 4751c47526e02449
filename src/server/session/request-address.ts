import 'server-only'

import { headers } from 'next/headers'

/**
 * Where a request came from, as the server nearest to this one saw it: what others before it said in the same header is not
 * believed.
 */
export async function requestAddress(): Promise<string> {
  const passedOn = (await headers()).get('x-forwarded-for') ?? ''
  return (passedOn.split(',').at(-1) ?? '').trim().slice(0, 60)
}
