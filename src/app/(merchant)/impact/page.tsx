import { merchantPage } from '@/server/session/permit'
import { BetweenPage } from '@/features/drafts/impact/between-page'
import { loadBetween } from '@/features/drafts/impact/load-between'
import { parseReview } from '@/features/drafts/review/review-url'
import { loadTrace } from '@/features/trace/load-trace'
import { TracePair } from '@/features/trace/trace-pair'
import { lookFrom } from '@/server/engine/look-from'
import { DEFAULT_VANTAGE } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'What changes between two days' }

export default merchantPage(
  'prices:look',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    const fields = await searchParams
    const shown = parseReview(fields)
    const view = await loadBetween(await lookFrom(DEFAULT_VANTAGE), fields, shown)
    const buyer = view.classes.find(({ key }) => key === view.opened?.key)
    const from = buyer && {
      ...DEFAULT_VANTAGE,
      as: buyer.as,
      currency: buyer.currency,
      buying: shown.quantity,
    }
    const { sku } = shown
    const [before, after] =
      from && sku !== null
        ? await Promise.all(
            [view.since, view.until].map(async (on) => loadTrace(await lookFrom({ ...from, on }), sku)),
          )
        : []
    const traces =
      before?.ok && after?.ok ? (
        <TracePair title={sku ?? ''} before={before.value} after={after.value} names={[...view.names]} />
      ) : null
    return <BetweenPage view={view} shown={shown} traces={traces} />
  },
)
