import { merchantPage } from '@/server/session/permit'
import { ImportStart } from '@/features/imports/import-start'
import { loadImports } from '@/features/imports/load-import'
import { currentView } from '@/server/views/current-view'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Import' }

interface ImportPageProps {
  readonly searchParams: Promise<Record<string, string>>
}

export default merchantPage('live:edit', async ({ searchParams }: ImportPageProps) => {
  const view = await currentView()
  const { store } = view.prepared
  const { list } = await searchParams
  const lists = [...store['price-list'].values()]
    .map(({ code, name }) => ({ code, name }))
    .sort((left, right) => (left.name < right.name ? -1 : 1))
  return <ImportStart lists={lists} chosen={list ?? null} earlier={await loadImports(view.steppe, store)} />
})
