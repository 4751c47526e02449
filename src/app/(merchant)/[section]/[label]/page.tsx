import { addressWord } from '@/server/doors/address-word'
import { loadRecord } from '@/features/records/load-record'
import { RecordSheet } from '@/features/records/record-sheet'
import { findSection } from '@/features/records/sections'
import { leadToRecord } from '@/features/records/moved-record'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage, serializeVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'

interface RecordPageProps {
  readonly params: Promise<{ section: string; label: string }>
  readonly searchParams: Promise<Record<string, string>>
}

export async function generateMetadata({ params }: RecordPageProps): Promise<Metadata> {
  return { title: addressWord((await params).label) }
}

export default async function RecordPage({ params, searchParams }: RecordPageProps) {
  const { section: path, label } = await params
  const section = findSection(path)
  if (!section) notFound()
  const search = await searchParams
  const vantage = parseVantage(new URLSearchParams(search))
  const view = await loadRecord(await lookFrom(vantage), section.kind, addressWord(label))
  if (!view) return leadToRecord(section.kind, section.path, addressWord(label), search)
  return <RecordSheet key={`${view.id} ${view.asOf} ${serializeVantage(vantage)}`} initial={view} />
}
