import { SetUpForm } from '@/features/set-up/set-up-form'
import { getSteppe } from '@/server/engine/steppe'
import type { Metadata } from 'next'
import { redirect } from 'next/navigation'
import { connection } from 'next/server'

export const metadata: Metadata = { title: 'Set up' }

export default async function SetUpPage() {
  await connection()
  if ((await getSteppe()).prepared) redirect('/board')
  return <SetUpForm />
}
