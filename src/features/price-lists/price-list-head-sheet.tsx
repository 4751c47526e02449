import 'server-only'

import { changeEffect, ChangeEffectTables } from '@/sheet/effect/change-effect'
import { RenewButton } from '@/sheet/parts/renew-button'
import { SheetTable } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { breaksPhrase, whatSentence } from '@/ui/format/rule-phrases'
import { recordHref } from '@/ui/frame/record-href'
import { VantageLink } from '@/ui/frame/vantage-link'
import { priceListDetails, priceListSentence } from './price-list-sentence'

export const priceListHeadSheet: SheetOfKind = {
  sentence: priceListSentence,
  details: priceListDetails,
  about: (record) => `switched ${String(record['state'])}`,
  effect: drawHead,
}

const MOST_SHOWN = 20

/** A list's lines in short, and what a change of whom, where or when it is for would move. */
async function drawHead(loaded: LoadedSheet): Promise<SheetEffect> {
  const { before, after, id, stored, record } = loaded
  const { store } = (after ?? before).prepared
  const list = store['price-list'].get(id)
  if (!list || !stored)
    return {
      main: <p className="text-soft">A name is enough to begin with; its lines come next.</p>,
      side: null,
    }
  const effect = await changeEffect(loaded)
  const lines = [...store['price-line'].values()].filter((line) => line.list === id)
  return {
    main: (
      <>
        {effect && <ChangeEffectTables effect={effect} />}
        <p className="pb-2">
          <VantageLink href={recordHref('price-lists', list.code)} className="link-name">
            Its {lines.length} {lines.length === 1 ? 'line' : 'lines'}: change them, and see what each comes
            to
          </VantageLink>
        </p>
        <SheetTable caption="Its lines" heads={['For', 'Rule']}>
          {lines.slice(0, MOST_SHOWN).map((line) => (
            <tr key={line.id}>
              <td>{whatSentence(line.scope, store)}</td>
              <td>
                {breaksPhrase(
                  line,
                  (amount) => `${list.currency} ${amount}`,
                  (other) => store['price-list'].get(other)?.name ?? other,
                )}
              </td>
            </tr>
          ))}
        </SheetTable>
        {lines.length > MOST_SHOWN && <p className="pt-1 text-soft">and {lines.length - MOST_SHOWN} more</p>}
      </>
    ),
    side: null,
    actions: list.schedule.to ? (
      <RenewButton kind="price-list" id={id} name={String(record['name'])} />
    ) : null,
    summary: effect?.summary ?? '',
  }
}
