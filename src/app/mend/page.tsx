import { merchantPage } from '@/server/session/permit'
import { MendPage } from '@/features/set-up/mend-page'
import { getSteppe } from '@/server/engine/steppe'
import type { Metadata } from 'next'
import { redirect } from 'next/navigation'
import { connection } from 'next/server'

export const metadata: Metadata = { title: 'Store cannot be read' }

export default merchantPage('live:edit', async () => {
  await connection()
  const { broken } = await getSteppe()
  if (!broken) redirect('/board')
  return <MendPage record={broken.record} why={broken.why} />
})
