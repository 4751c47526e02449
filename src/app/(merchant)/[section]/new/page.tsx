import { loadNewRecord } from '@/features/records/load-record'
import { NewRecordForm } from '@/features/records/new-record-form'
import { findSection } from '@/features/records/sections'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'

export const metadata: Metadata = { title: 'New' }

interface NewPageProps {
  readonly params: Promise<{ section: string }>
  readonly searchParams: Promise<Record<string, string>>
}

export default async function NewPage({ params, searchParams }: NewPageProps) {
  const section = findSection((await params).section)
  if (!section) notFound()
  const fields = new URLSearchParams(await searchParams)
  const outlook = await lookFrom(parseVantage(fields))
  return <NewRecordForm view={loadNewRecord(outlook, section.kind, fields.get('copy'))} />
}
