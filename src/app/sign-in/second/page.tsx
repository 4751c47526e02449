import { backTo } from '@/features/sign-in/back'
import { DoorForm } from '@/features/sign-in/door-form'
import { DoorPage } from '@/features/sign-in/door-page'
import { giveSecond } from '@/features/sign-in/sign-in-actions'
import { openPage } from '@/server/session/permit'
import type { Metadata } from 'next'
import Link from 'next/link'

export const metadata: Metadata = { title: 'Second factor' }

interface Props {
  readonly searchParams: Promise<{ readonly back?: string }>
}

export default openPage('the second half of signing in', async ({ searchParams }: Props) => (
  <DoorPage
    title="One more step"
    about="Type the six digits your authenticator app shows, or one of the codes you kept for when it is lost."
  >
    <DoorForm
      action={giveSecond}
      button="Sign in"
      hidden={{ back: backTo(String((await searchParams).back ?? '')) }}
      fields={[{ name: 'code', label: 'Code', autoComplete: 'one-time-code', isCode: true }]}
    >
      <Link href="/sign-in" className="link-name">
        Back
      </Link>
    </DoorForm>
  </DoorPage>
))
