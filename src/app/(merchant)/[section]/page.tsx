import { merchantPage } from '@/server/session/permit'
import { loadRecords } from '@/features/records/load-records'
import { RecordTable } from '@/features/records/record-table'
import { findSection } from '@/sheet/record/sections'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'

interface SectionPageProps {
  readonly params: Promise<{ section: string }>
  readonly searchParams: Promise<Record<string, string>>
}

export async function generateMetadata({ params }: SectionPageProps): Promise<Metadata> {
  return { title: findSection((await params).section)?.title ?? 'Not found' }
}

export default merchantPage('prices:look', async ({ params, searchParams }: SectionPageProps) => {
  const section = findSection((await params).section)
  const kind = section?.kind
  if (!section || !kind || kind === 'category') notFound()
  const requestContext = await lookFrom(parseVantage(new URLSearchParams(await searchParams)))
  return <RecordTable section={section} view={await loadRecords(requestContext, kind)} />
})
