import { VantageLink } from '@/ui/frame/vantage-link'
import type { ReactNode } from 'react'
import { Contracts, WhoSees } from '../review/review-parts'
import type { ImpactView } from '../review/review-view'
import { reviewHref, type ReviewShown, type ReviewTab } from '../review/review-url'
import { WhoPays } from './who-pays'

/** The parts of an impact, and as what each price counts; `more` are parts beside these. */
export function ImpactTabs({
  view,
  shown,
  more = [],
}: {
  readonly view: ImpactView
  readonly shown: ReviewShown
  readonly more?: readonly (readonly [tab: ReviewTab, name: string, count: number])[]
}) {
  const seen = view.sees.reduce((sum, { count }) => sum + count, 0)
  const tabs: readonly (readonly [tab: ReviewTab, name: string, count: number])[] = [
    ['pays', 'Who pays what', view.moved],
    ['sees', 'Who sees what', seen],
    ['contracts', 'Contracts', view.contracts.length],
    ...more,
  ]
  return (
    <nav aria-label="Parts of the review" className="flex flex-wrap items-baseline gap-x-5 pt-3 pb-1">
      {tabs.map(([tab, name, count]) => (
        <VantageLink
          key={tab}
          href={reviewHref(view.address, { ...shown, tab })}
          aria-current={shown.tab === tab ? 'page' : undefined}
          className={`border-b-2 pb-1 ${shown.tab === tab ? 'border-primary font-semibold' : 'border-transparent text-soft hover:text-base-content'}`}
        >
          {name} {count}
        </VantageLink>
      ))}
      {shown.tab === 'pays' && (
        <span className="ml-auto flex gap-4 text-soft">
          <span>
            each price counts{' '}
            <VantageLink
              href={reviewHref(view.address, { ...shown, counts: shown.counts === 'once' ? 'sold' : 'once' })}
              className="word text-base-content"
              title="Change what each price counts"
            >
              {shown.counts === 'once' ? 'once' : 'as sold in 90 days'}
            </VantageLink>
          </span>
          <span>
            Export as{' '}
            <a className="link-name" href={view.exportHref} download>
              CSV
            </a>{' '}
            <a className="link-name" href={`${view.exportHref}&as=xlsx`} download>
              XLSX
            </a>
          </span>
        </span>
      )}
    </nav>
  )
}

/** What a part of an impact shows; all but the changes of a draft. */
export function ImpactPart({
  view,
  shown,
  traces,
}: {
  readonly view: ImpactView
  readonly shown: ReviewShown
  readonly traces: ReactNode
}) {
  if (shown.tab === 'sees') return <WhoSees view={view} />
  if (shown.tab === 'contracts') return <Contracts view={view} />
  return <WhoPays view={view} shown={shown} traces={traces} />
}
