import { loadMe } from '@/features/me/load-me'
import { MePage } from '@/features/me/me-page'
import { merchantPage } from '@/server/session/permit'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'You' }

export default merchantPage('prices:look', async (_props: object, doer) => (
  <MePage view={await loadMe(doer)} />
))
