import { AuditPage } from '@/features/audit/audit-page'
import { loadAudit, parseAudit } from '@/features/audit/load-audit'
import { merchantPage } from '@/server/session/permit'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Audit' }

interface Props {
  readonly searchParams: Promise<Record<string, string>>
}

export default merchantPage('audit:look', async ({ searchParams }: Props) => (
  <AuditPage view={await loadAudit(parseAudit(await searchParams))} />
))
