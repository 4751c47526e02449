import { merchantPage } from '@/server/session/permit'
import { loadReview } from '@/features/drafts/review/load-review'
import { ReviewPage } from '@/features/drafts/review/review-page'
import { parseReview } from '@/features/drafts/review/review-url'
import { loadTrace } from '@/features/trace/load-trace'
import { TracePair } from '@/features/trace/trace-pair'
import type { DraftView } from '@/server/drafts/draft-impact'
import { lookFrom } from '@/server/engine/look-from'
import { DEFAULT_VANTAGE } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'
import { redirect } from 'next/navigation'

export const metadata: Metadata = { title: 'Review of a draft' }

interface Props {
  readonly params: Promise<{ readonly code: string }>
  readonly searchParams: Promise<Record<string, string>>
}

export default merchantPage('prices:look', async ({ params, searchParams }: Props) => {
  const draft = decodeURIComponent((await params).code)
  const shown = parseReview(await searchParams)
  const { view } = await lookFrom({ ...DEFAULT_VANTAGE, draft })
  // What has ended is found among what was published.
  if (!view.draft) redirect('/drafts')
  const review = await loadReview(view as DraftView, shown)
  const buyer = review.classes.find(({ key }) => key === review.opened?.key)
  const from = buyer && { ...DEFAULT_VANTAGE, as: buyer.as, currency: buyer.currency, buying: shown.quantity }
  const sides =
    from && shown.sku !== null
      ? await Promise.all(
          [null, draft].map(async (side) =>
            loadTrace(await lookFrom({ ...from, draft: side }), shown.sku ?? ''),
          ),
        )
      : []
  const [before, after] = sides
  const traces =
    before?.ok && after?.ok ? (
      <TracePair
        title={shown.sku ?? ''}
        before={before.value}
        after={after.value}
        names={['Live', `Draft “${review.name}”`]}
      />
    ) : null
  return <ReviewPage view={review} shown={shown} traces={traces} />
})
