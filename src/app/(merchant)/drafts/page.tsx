import { sightOf } from '@/server/session/doing'
import { merchantPage } from '@/server/session/permit'
import { DraftsPage } from '@/features/drafts/drafts-page'
import { loadDraftsPage } from '@/features/drafts/load-drafts-page'
import { StartForm } from '@/features/drafts/start-form'
import { getSteppe } from '@/server/engine/steppe'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Draft and history' }

export default merchantPage(
  'prices:look',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }, doer) => {
    const { change, before } = await searchParams
    const shown = { opened: toNumber(change), before: toNumber(before) }
    const view = await loadDraftsPage(await getSteppe(), shown, sightOf(doer))
    return <DraftsPage view={view} start={<StartForm />} />
  },
)

function toNumber(text: string | undefined): number | null {
  return text !== undefined && /^\d{1,9}$/.test(text) ? Number(text) : null
}
