import 'server-only'

import { findRights } from '@/core/engine/rules/find-rights'
import { Slices } from '@/server/doors/slices'
import { pricingContextOf } from '@/server/engine/request-context'
import { soldVariants } from '@/server/engine/sold-variants'
import { buyerContextOf, usualBuyers } from '@/sheet/effect/buyers'
import { mentionsOfBuyerOrPlace } from '@/sheet/effect/mentions'
import { MentionList } from '@/sheet/parts/mention-list'
import { SheetTable } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { VantageLink } from '@/ui/frame/vantage-link'
import { channelDetails, channelSentence } from './market-sentences'

export const channelSheet: SheetOfKind = {
  sentence: channelSentence,
  details: channelDetails,
  about: (record) => String(record['code']),
  effect: drawChannel,
}

/** Who sees and buys how much in a channel. */
async function drawChannel(loaded: LoadedSheet): Promise<SheetEffect> {
  const { before, after, id, stored } = loaded
  const { prepared } = after ?? before
  const channel = prepared.store.channel.get(id)
  if (!channel) return { main: <p className="text-soft">A name is enough to begin with.</p>, side: null }
  const sold = await soldVariants(prepared)
  const slices = new Slices()
  const rows = []
  for (const buyer of usualBuyers(prepared.store)) {
    const pricingContext = pricingContextOf(prepared, { ...buyerContextOf(buyer, before), channel: id })
    let [see, price, buy] = [0, 0, 0]
    for (const { number } of sold) {
      if (slices.isDue()) await slices.rest()
      const rights = findRights(prepared, pricingContext, number)
      see += Number(rights.see)
      price += Number(rights.seePrice)
      buy += Number(rights.buy)
    }
    rows.push({ buyer, see, price, buy })
  }
  const count = (value: number) => (
    <td className={value < sold.length ? 'font-semibold text-accent' : 'text-soft'}>
      {value === sold.length ? 'all' : value}
    </td>
  )
  return {
    main: (
      <>
        <SheetTable
          caption="Who sees and buys what here"
          heads={[`Of ${sold.length} variants`, 'See', 'See the price of', 'May buy']}
        >
          {rows.map(({ buyer, see, price, buy }) => (
            <tr key={buyer.code}>
              <td>{buyer.name}</td>
              {count(see)}
              {count(price)}
              {count(buy)}
            </tr>
          ))}
        </SheetTable>
        {stored && (
          <p className="pt-3">
            <VantageLink
              href={`/assortments?of=channel&code=${encodeURIComponent(channel.code)}`}
              className="link-name"
            >
              Set its assortment on the tree
            </VantageLink>
          </p>
        )}
      </>
    ),
    side: stored && (
      <MentionList
        title="Rules for this channel"
        mentions={mentionsOfBuyerOrPlace(
          prepared.store,
          () => false,
          (term) =>
            (term.kind === 'channel' && term.channel === id) ||
            (term.kind === 'channel-group' && channel.groups.includes(term.group)),
        )}
        none="None: lists and rules hold here as everywhere."
      />
    ),
  }
}
