import { backTo } from '@/features/sign-in/back'
import { DoorForm } from '@/features/sign-in/door-form'
import { DoorPage } from '@/features/sign-in/door-page'
import { PasskeyButton } from '@/features/sign-in/passkey-button'
import { signIn } from '@/features/sign-in/sign-in-actions'
import { passkeyHost } from '@/server/doors/own-address'
import { getSteppe } from '@/server/engine/steppe'
import { findDoer } from '@/server/session/doer'
import { openPage } from '@/server/session/permit'
import { isFirstStart } from '@/server/staff/first-start'
import type { Metadata } from 'next'
import Link from 'next/link'
import { redirect } from 'next/navigation'

export const metadata: Metadata = { title: 'Sign in' }

interface Props {
  readonly searchParams: Promise<{ readonly back?: string; readonly set?: string }>
}

export default openPage('signs in', async ({ searchParams }: Props) => {
  const { back = '', set } = await searchParams
  if (await findDoer()) redirect(backTo(String(back)))
  if (await isFirstStart((await getSteppe()).database)) redirect('/first-start')
  return (
    <DoorPage
      title="Sign in"
      about={
        set === undefined
          ? 'For the people of the store. Buyers sign in at the shop.'
          : 'Your password is set. Sign in with it.'
      }
    >
      <DoorForm
        action={signIn}
        button="Sign in"
        hidden={{ back: backTo(String(back)) }}
        fields={[
          { name: 'email', label: 'E-mail address', type: 'email', autoComplete: 'username' },
          { name: 'password', label: 'Password', type: 'password', autoComplete: 'current-password' },
        ]}
      >
        <Link href="/sign-in/lost" className="link-name">
          Lost your password?
        </Link>
      </DoorForm>
      <PasskeyButton host={passkeyHost()} back={backTo(String(back))} />
    </DoorPage>
  )
})
