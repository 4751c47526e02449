import { merchantPage } from '@/server/session/permit'
import { findSection } from '@/sheet/record/sections'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { drawnSheet } from '../drawn-sheet'

export const metadata: Metadata = { title: 'New' }

interface NewPageProps {
  readonly params: Promise<{ section: string }>
  readonly searchParams: Promise<Record<string, string>>
}

export default merchantPage('drafts:edit', async ({ params, searchParams }: NewPageProps) => {
  const section = findSection((await params).section)
  if (!section) notFound()
  const search = await searchParams
  return drawnSheet(section.kind, { label: null, copyOf: search['copy'] ?? null }, search)
})
