import { merchantPage } from '@/server/session/permit'
import { loadProofs } from '@/features/proofs/load-proofs'
import { ProofsPage } from '@/features/proofs/proofs-page'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Proofs' }

export default merchantPage(
  'prices:look',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    return (
      <ProofsPage
        view={await loadProofs(await lookFrom(parseVantage(new URLSearchParams(await searchParams))))}
      />
    )
  },
)
