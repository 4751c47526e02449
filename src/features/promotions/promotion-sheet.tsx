import 'server-only'

import type { Promotion } from '@/core/promotions/promotion'
import { SideList, SideRow } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { VantageLink } from '@/ui/frame/vantage-link'
import { KindChoice } from './kind-choice'
import { firstSample, loadSample } from './load-sample'
import { loadFindings, type PromotionFinding } from './load-findings'
import { loadUses, type UsesView } from './load-uses'
import { promotionDetails, promotionSentence } from './promotion-sentence'
import { SampleCart } from './sample-cart'

export const promotionSheet: SheetOfKind = {
  sentence: promotionSentence,
  details: promotionDetails,
  about: (record) => `switched ${String(record['state'])}`,
  effect: drawPromotion,
}

async function drawPromotion(loaded: LoadedSheet): Promise<SheetEffect> {
  const { view, record, before } = loaded
  const promotion = record as unknown as Promotion
  const sample = loadSample(loaded, await firstSample(loaded))
  const of = {
    label: view.label === '' ? null : view.label,
    copyOf: view.copyOf,
    texts: view.texts,
    vantage: view.vantage,
  }
  return {
    main: (
      <>
        <KindChoice store={before.prepared.store} promotion={promotion} />
        {sample.ok ? (
          <SampleCart key={loaded.id} of={of} first={sample.view} />
        ) : (
          <p className="text-soft">{sample.problem}</p>
        )}
      </>
    ),
    side: (
      <>
        <Findings findings={await findingsOf(loaded)} />
        <Side promotion={promotion} used={await loadUses(before, loaded.id)} />
      </>
    ),
    ...(sample.ok && {
      summary: `the sample cart pays ${sample.view.currency} ${sample.view.total} instead of ${sample.view.before}`,
    }),
  }
}

/** Of the promotion as it would be. */
async function findingsOf({ id, before, after }: LoadedSheet): Promise<readonly PromotionFinding[]> {
  const look = after ?? before
  const promotion = look.prepared.store.promotion.get(id)
  return promotion ? loadFindings(look, promotion) : []
}

function Findings({ findings }: { readonly findings: readonly PromotionFinding[] }) {
  if (findings.length === 0) return null
  return (
    <SideList title="Worth a look">
      <ul>
        {findings.map(({ text, link }) => (
          <li key={`${text} ${link?.name}`} className="mb-1 bg-warning px-2 py-1 text-warning-content">
            {text}{' '}
            {link && (
              <VantageLink href={link.href} className="link-name">
                {link.name}
              </VantageLink>
            )}
          </li>
        ))}
      </ul>
    </SideList>
  )
}

function Side({ promotion: { uses }, used }: { readonly promotion: Promotion; readonly used: UsesView }) {
  return (
    <>
      <section className="pb-2">
        <p>
          <b className="text-xl tabular-nums">{used.total}</b>{' '}
          <span className="text-soft">
            {uses.total === null
              ? used.total === 1
                ? 'use so far'
                : 'uses so far'
              : `of ${uses.total} uses`}
          </span>
        </p>
        {uses.total !== null && (
          <progress
            className="progress w-full progress-primary"
            value={used.total}
            max={uses.total}
            aria-label="Uses so far"
          />
        )}
        <p className="text-xs text-soft">{used.today} today. Uses are counted when an order is placed.</p>
      </section>
      {used.total > 0 && (
        <>
          <SideList title="Who used it">
            {used.buyers.map(({ name, href, uses: count }) => (
              <SideRow key={name} name={name} href={href}>
                {count}
              </SideRow>
            ))}
          </SideList>
          <SideList title="What it gave away">
            <SideRow name="So far">{used.given.join(', ')}</SideRow>
          </SideList>
        </>
      )}
    </>
  )
}
