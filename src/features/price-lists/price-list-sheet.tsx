import 'server-only'

import { changeEffect, ChangeEffectTables } from '@/sheet/effect/change-effect'
import { RenewButton } from '@/sheet/parts/renew-button'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { loadPriceListSheet } from './load-price-lists'
import { PriceListLines } from './price-list-lines'
import { priceListDetails, priceListSentence } from './price-list-sentence'

export const priceListSheet: SheetOfKind = {
  sentence: priceListSentence,
  details: priceListDetails,
  about: (record) => [record['code'], `switched ${String(record['state'])}`].join(' · '),
  effect: drawPriceList,
}

/** What each line of a list does, and what a change of whom, where or when it is for would move. */
async function drawPriceList(loaded: LoadedSheet): Promise<SheetEffect> {
  const { before, after, id, stored, record, view } = loaded
  const list = (after ?? before).prepared.store['price-list'].get(id)
  if (!list || !stored)
    return {
      main: <p className="text-soft">A name is enough to begin with; its lines come next.</p>,
      side: null,
    }
  const lines = await loadPriceListSheet(after ?? before, list.code)
  const effect = await changeEffect(loaded)
  return {
    main: (
      <>
        {effect && <ChangeEffectTables effect={effect} />}
        {lines && (
          <PriceListLines
            // What is typed above changes what the lines come to; a line that is edited itself shows it already.
            key={`${view.revision} ${JSON.stringify(view.texts)}`}
            initial={{ ...lines, live: lines.live && after === null }}
          />
        )}
      </>
    ),
    side: null,
    hasOwnHistory: true,
    actions: list.schedule.to ? (
      <RenewButton kind="price-list" id={id} name={String(record['name'])} />
    ) : null,
    summary: effect?.summary ?? '',
  }
}
