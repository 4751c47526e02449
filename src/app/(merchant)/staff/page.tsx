import { loadStaff, parseStaff } from '@/features/staff/load-staff'
import { StaffPage } from '@/features/staff/staff-page'
import { lookFrom } from '@/server/engine/look-from'
import { merchantPage } from '@/server/session/permit'
import { DEFAULT_VANTAGE } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'People' }

interface Props {
  readonly searchParams: Promise<Record<string, string>>
}

export default merchantPage('staff:manage', async ({ searchParams }: Props, doer) => (
  <StaffPage view={await loadStaff(await lookFrom(DEFAULT_VANTAGE), parseStaff(await searchParams), doer)} />
))
