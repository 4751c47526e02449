import { DoorForm } from '@/features/sign-in/door-form'
import { DoorPage } from '@/features/sign-in/door-page'
import { askPassword } from '@/features/sign-in/sign-in-actions'
import { openPage } from '@/server/session/permit'
import type { Metadata } from 'next'
import Link from 'next/link'

export const metadata: Metadata = { title: 'Lost password' }

export default openPage('for whoever cannot sign in', () => (
  <DoorPage title="Lost your password?" about="A link to set a new one is mailed to you.">
    <DoorForm
      action={askPassword}
      button="Mail me a link"
      fields={[{ name: 'email', label: 'E-mail address', type: 'email', autoComplete: 'username' }]}
    >
      <Link href="/sign-in" className="link-name">
        Back to signing in
      </Link>
    </DoorForm>
  </DoorPage>
))
