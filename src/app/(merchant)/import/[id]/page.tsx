import { loadImport } from '@/features/imports/load-import'
import { ImportPage } from '@/features/imports/import-page'
import { getPrepared, getSteppe } from '@/server/engine/steppe'
import type { Metadata } from 'next'
import { redirect } from 'next/navigation'

export const metadata: Metadata = { title: 'Import' }

interface PageProps {
  readonly params: Promise<{ readonly id: string }>
}

export default async function Page({ params }: PageProps) {
  const { id } = await params
  const view = loadImport(getPrepared(await getSteppe()).store, id)
  if (!view) redirect('/import')
  return <ImportPage initial={view} />
}
