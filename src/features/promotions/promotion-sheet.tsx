import 'server-only'

import type { Promotion } from '@/core/promotions/promotion'
import type { Uses } from '@/core/cart/promote/outcome'
import { startOfDay } from '@/core/predicates/instant'
import { getSettings } from '@/core/store/store'
import { readUses } from '@/server/shop/promotion-uses'
import { SideList, SideRow } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { KindChoice } from './kind-choice'
import { firstSample, loadSample } from './load-sample'
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
        <KindChoice store={before.prepared.store} value={promotion.value} />
        {sample.ok ? (
          <SampleCart key={loaded.id} of={of} first={sample.view} />
        ) : (
          <p className="text-soft">{sample.problem}</p>
        )}
      </>
    ),
    side: <Side promotion={promotion} used={await usesSoFar(loaded)} />,
    ...(sample.ok && {
      summary: `the sample cart pays ${sample.view.currency} ${sample.view.total} instead of ${sample.view.before}`,
    }),
  }
}

/** How often it has been used, ever and today, whoever used it. */
async function usesSoFar({ id, before }: LoadedSheet): Promise<Uses> {
  const { steppe, prepared, now } = before
  const today = startOfDay(new Date(now), getSettings(prepared.store).timeZone)
  const used = await readUses(steppe.database, { account: null, visitor: null }, today)
  return used[id] ?? { total: 0, byBuyer: 0, today: 0 }
}

function Side({ promotion, used }: { readonly promotion: Promotion; readonly used: Uses }) {
  const { uses, isAnnounced, isOffer } = promotion
  const any = (count: number | null) => (count === null ? 'as often as it fits' : String(count))
  return (
    <>
      <section className="pb-5">
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
      <SideList title="How often it may be used">
        <SideRow name="In all">{any(uses.total)}</SideRow>
        <SideRow name="By each buyer">{any(uses.perBuyer)}</SideRow>
        <SideRow name="In one order">{any(uses.perOrder)}</SideRow>
        <SideRow name="In a day">{any(uses.perDay)}</SideRow>
      </SideList>
      <SideList title="In the shop">
        <SideRow name="Announced">{isAnnounced ? 'yes' : 'no'}</SideRow>
        <SideRow name="Applied">{isOffer ? 'when taken' : 'by itself'}</SideRow>
      </SideList>
    </>
  )
}
