import { VantageLink } from '@/ui/frame/vantage-link'
import type { ReactNode } from 'react'
import { PublishForm } from './publish-form'
import { ImpactHeadline } from '../impact/impact-headline'
import { ImpactPart, ImpactTabs } from '../impact/impact-tabs'
import { AllChanges, SidePart } from './review-parts'
import type { ReviewView } from './review-view'
import type { ReviewShown } from './review-url'
import { SettleForm } from './settle-form'

/** What a draft would change for whom, before it is live. */
export function ReviewPage({
  view,
  shown,
  traces,
}: {
  readonly view: ReviewView
  readonly shown: ReviewShown
  readonly traces: ReactNode
}) {
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-0 flex-1">
        <section className="min-h-0 min-w-0 flex-1 overflow-auto px-6 pt-3 pb-8" aria-label="Review">
          <header>
            <h1 className="inline text-xl leading-7 font-semibold">Review of draft “{view.name}”</h1>
            <span className="pl-3 text-soft">{view.about}</span>
          </header>
          <p className="pt-1 text-base leading-6">
            <Headline view={view} />
          </p>
          <ImpactTabs view={view} shown={shown} more={[['changes', 'All changes', view.changes.length]]} />
          {shown.tab === 'changes' ? (
            <AllChanges view={view} />
          ) : (
            <ImpactPart view={view} shown={shown} traces={traces} />
          )}
        </section>
        <aside
          aria-label="Before it can be published"
          className="w-[272px] shrink-0 overflow-auto border-l border-base-300 bg-lifted px-4 pt-4 pb-8"
        >
          <Before view={view} />
        </aside>
      </div>
      <PublishForm view={view} />
    </div>
  )
}

function Headline({ view }: { readonly view: ReviewView }) {
  const { contracts, sees, proofs } = view
  const hidden = sees
    .filter(({ what }) => what === 'no longer see')
    .reduce((sum, { count }) => sum + count, 0)
  const broken = proofs.broken.filter(({ isBrokenLive }) => !isBrokenLive).length
  const touched =
    contracts.length === 1 ? 'One contract is touched' : `${contracts.length} contracts are touched`
  const gone = `buyers no longer see ${counted(hidden, 'variant')}`
  return (
    <>
      <ImpactHeadline view={view} more={broken > 0 ? [`${counted(broken, 'proof')} broken`] : []} />
      {[contracts.length > 0 ? touched : '', hidden > 0 ? gone : ''].filter(Boolean).join(', and ')}
      {contracts.length + hidden > 0 && '.'}
    </>
  )
}

function counted(count: number, noun: string): string {
  return `${count} ${noun}${count === 1 ? '' : 's'}`
}

function Before({ view }: { readonly view: ReviewView }) {
  const { proofs, conflicts, below, belowCost, contracts, sees, code, planned, failure } = view
  return (
    <>
      <h2 className="text-sm font-semibold">Before it can be published</h2>
      {failure && <p className="pt-2 text-error">{failure}</p>}
      {planned && <p className="pt-2">It is published by itself on {planned.text}.</p>}
      {(proofs.holds > 0 || proofs.broken.length > 0) && (
        <SidePart
          title={
            <>
              Proofs: {proofs.holds} hold
              {proofs.broken.length > 0 && (
                <span className="text-error">, {proofs.broken.length} broken</span>
              )}
            </>
          }
        >
          <ul>
            {proofs.broken.map(({ sentence, href, found, isBlocking, isBrokenLive }) => (
              <li key={href} className="border-b border-dotted border-base-300 py-1">
                <VantageLink href={href} className="link-name">
                  {sentence}
                </VantageLink>{' '}
                <b className="text-error">{found}</b>
                <span className="text-soft">
                  {isBrokenLive && ', broken live too'}
                  {!isBlocking && ', only warns'}
                </span>
              </li>
            ))}
          </ul>
        </SidePart>
      )}
      {conflicts.length > 0 && (
        <SidePart
          title={
            <>
              {conflicts.length === 1 ? 'Conflict' : 'Conflicts'} with live:{' '}
              <span className="text-error">{conflicts.length}</span>
            </>
          }
        >
          <div className="flex flex-col gap-2">
            {conflicts.map((conflict) => (
              <SettleForm
                key={`${conflict.record.kind} ${conflict.record.id}`}
                code={code}
                conflict={conflict}
              />
            ))}
          </div>
        </SidePart>
      )}
      {belowCost > 0 && (
        <SidePart
          title={
            <>
              Below cost: <span className="text-error">{belowCost}</span>
            </>
          }
        >
          <ul>
            {below.map(({ who, title, price, cost }) => (
              <li
                key={`${who} ${title}`}
                className="flex justify-between gap-2 border-b border-dotted border-base-300 py-1"
              >
                <span>
                  {who} <span className="text-soft">{title}</span>
                </span>
                <span className="shrink-0 text-right">
                  <b className="text-error">{price}</b>{' '}
                  <span className="block text-xs text-soft">costs {cost}</span>
                </span>
              </li>
            ))}
          </ul>
        </SidePart>
      )}
      {contracts.length > 0 && (
        <SidePart title={`Contracts: ${contracts.length}`}>
          <ul>
            {contracts.slice(0, 6).map(({ name, href, moved, below }) => (
              <li key={href} className="border-b border-dotted border-base-300 py-1">
                <VantageLink href={href} className="link-name">
                  {name}
                </VantageLink>{' '}
                {moved} {moved === 1 ? 'price moves' : 'prices move'}
                {below > 0 && <b className="text-error">, {below} below cost</b>}
              </li>
            ))}
          </ul>
        </SidePart>
      )}
      {sees.length > 0 && (
        <SidePart title="Who sees what">
          <ul>
            {sees.slice(0, 6).map(({ name, what, count }) => (
              <li key={`${name} ${what}`} className="border-b border-dotted border-base-300 py-1">
                <b>{name}</b> {what} {count}
              </li>
            ))}
          </ul>
        </SidePart>
      )}
      <SidePart title="Afterwards">
        <p>
          It is one change, and can be undone exactly under{' '}
          <VantageLink href="/drafts" className="link-name">
            Draft and history
          </VantageLink>
          .
        </p>
      </SidePart>
    </>
  )
}
