import 'server-only'

import { headers } from 'next/headers'
import { SIDE_HEADER } from '../doors/outer-door'

/**
 * Whose name stands in the history. Until people sign in, it is the person at this machine.
 *
 * Errors  throws `RangeError` for an action that was posted to a page of the shop: what is the merchant's is not to be
 *         had from there.
 */
export async function currentAuthor(): Promise<string> {
  await asMerchant()
  return 'Merchant'
}

/** Errors  throws `RangeError` unless the request came to the merchant's side. */
export async function asMerchant(): Promise<void> {
  if ((await headers()).get(SIDE_HEADER) === 'shop')
    throw new RangeError('this is done on the merchant’s side')
}
