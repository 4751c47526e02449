import { merchantPage } from '@/server/session/permit'
import { addressWord } from '@/server/doors/address-word'
import { leadToRecord } from '@/sheet/record/moved-record'
import { findSection } from '@/sheet/record/sections'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { drawnSheet } from '../drawn-sheet'

interface RecordPageProps {
  readonly params: Promise<{ section: string; label: string }>
  readonly searchParams: Promise<Record<string, string>>
}

export async function generateMetadata({ params }: RecordPageProps): Promise<Metadata> {
  return { title: addressWord((await params).label) }
}

export default merchantPage('prices:look', async ({ params, searchParams }: RecordPageProps) => {
  const { section: path, label: inAddress } = await params
  const section = findSection(path)
  if (!section) notFound()
  const label = addressWord(inAddress)
  const search = await searchParams
  const sheet = await drawnSheet(section.kind, { label, copyOf: null }, search)
  return sheet ?? leadToRecord(section.kind, section.path, label, search)
})
