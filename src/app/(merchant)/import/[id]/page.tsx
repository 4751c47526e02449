import { merchantPage } from '@/server/session/permit'
import { loadImport } from '@/features/imports/load-import'
import { ImportPage } from '@/features/imports/import-page'
import { currentView } from '@/server/views/current-view'
import type { Metadata } from 'next'
import { redirect } from 'next/navigation'

export const metadata: Metadata = { title: 'Import' }

interface PageProps {
  readonly params: Promise<{ readonly id: string }>
}

export default merchantPage('live:edit', async ({ params }: PageProps) => {
  const { id } = await params
  const { steppe, prepared } = await currentView()
  const view = await loadImport(steppe, prepared.store, id)
  if (!view) redirect('/import')
  return <ImportPage initial={view} />
})
