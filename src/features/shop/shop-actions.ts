'use server'

import { isBuyerCode } from '@/core/buyers/buyer-code'
import { enterShop } from '@/server/session/shop-session'
import { redirect } from 'next/navigation'

/** Signs in as the account a form names. */
export async function signIn(form: FormData): Promise<never> {
  const as = String(form.get('as') ?? '')
  await enterShop(isBuyerCode(as) ? as : 'guest')
  redirect('/shop')
}

export async function leaveShop(): Promise<never> {
  await enterShop('guest')
  redirect('/shop')
}
