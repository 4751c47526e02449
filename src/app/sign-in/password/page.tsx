import { DoorForm } from '@/features/sign-in/door-form'
import { DoorPage } from '@/features/sign-in/door-page'
import { setPassword } from '@/features/sign-in/sign-in-actions'
import { openPage } from '@/server/session/permit'
import type { Metadata } from 'next'
import Link from 'next/link'

export const metadata: Metadata = { title: 'Set a password' }

interface Props {
  readonly searchParams: Promise<{ readonly word?: string }>
}

export default openPage('by a mailed link', async ({ searchParams }: Props) => (
  <DoorPage title="Set your password" about="Wherever you were signed in, you are signed out.">
    <DoorForm
      action={setPassword}
      button="Set the password"
      hidden={{ word: String((await searchParams).word ?? '').slice(0, 100) }}
      fields={[
        {
          ...{ name: 'password', label: 'New password', type: 'password', autoComplete: 'new-password' },
          about: 'At least 10 characters. A few words in a row are easy to keep in mind.',
        },
        { name: 'again', label: 'Once more', type: 'password', autoComplete: 'new-password' },
      ]}
    >
      <Link href="/sign-in/lost" className="link-name">
        Ask for another link
      </Link>
    </DoorForm>
  </DoorPage>
))
