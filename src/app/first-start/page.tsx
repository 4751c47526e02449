import { DoorForm } from '@/features/sign-in/door-form'
import { DoorPage } from '@/features/sign-in/door-page'
import { startAsOwner } from '@/features/sign-in/sign-in-actions'
import { getSteppe } from '@/server/engine/steppe'
import { findDoer } from '@/server/session/doer'
import { openPage } from '@/server/session/permit'
import { isFirstStart } from '@/server/staff/first-start'
import type { Metadata } from 'next'
import { redirect } from 'next/navigation'

export const metadata: Metadata = { title: 'First start' }

export default openPage('asks for the code that was printed', async () => {
  if ((await findDoer()) || !(await isFirstStart((await getSteppe()).database))) redirect('/board')
  return (
    <DoorPage
      title="Whose store is this?"
      about="Steppe was just installed. Its owner may do everything, and invites the others."
    >
      <DoorForm
        action={startAsOwner}
        button="Become the owner"
        fields={[
          {
            ...{ name: 'code', label: 'Code', autoComplete: 'off', isCode: true },
            about: 'It stands in the terminal where Steppe was started.',
          },
          {
            ...{ name: 'name', label: 'Your name', autoComplete: 'name' },
            about: 'It stands beside what you change.',
          },
          { name: 'email', label: 'E-mail address', type: 'email', autoComplete: 'username' },
          {
            ...{ name: 'password', label: 'Password', type: 'password', autoComplete: 'new-password' },
            about: 'At least 10 characters. A few words in a row are easy to keep in mind.',
          },
        ]}
      />
    </DoorPage>
  )
})
