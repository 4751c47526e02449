import 'server-only'

import type { Region } from '@/core/places/place'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { itemName } from '@/core/catalogue/product'
import { soldVariants } from '@/server/engine/sold-variants'
import { changeEffect, ChangeEffectTables } from '@/sheet/effect/change-effect'
import { mentionsOfBuyerOrPlace } from '@/sheet/effect/mentions'
import { amountOn, priceSide } from '@/sheet/effect/price-moves'
import { MentionList } from '@/sheet/parts/mention-list'
import { SheetTable, SideList, SideRow } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { formatMoney } from '@/ui/format/amount'
import { landName } from '@/ui/format/place-names'
import { recordHref } from '@/ui/frame/record-href'
import { VantageLink } from '@/ui/frame/vantage-link'
import { regionDetails, regionSentence } from './market-sentences'

export const regionSheet: SheetOfKind = {
  sentence: regionSentence,
  details: regionDetails,
  about: (record) => String(record['code']),
  effect: drawRegion,
}

const EXAMPLES = 8
const MOST_ACCOUNTS = 12

async function drawRegion(loaded: LoadedSheet): Promise<SheetEffect> {
  const { store } = loaded.before.prepared
  const region = loaded.record as unknown as Region
  const effect = loaded.stored ? await changeEffect(loaded) : null
  const countries = new Set(region.countries.map((land) => land.slice(0, 2)))
  const there = [...store.account.values()].filter(
    ({ country, status }) => status === 'active' && countries.has(country),
  )
  return {
    main: (
      <>
        {effect && <ChangeEffectTables effect={effect} />}
        {await examplesThere(loaded, region)}
      </>
    ),
    side: loaded.stored && (
      <>
        <SideList title="Countries">
          {region.countries.map((land) => (
            <SideRow key={land} name={landName(land)}>
              {land}
            </SideRow>
          ))}
          {region.isDefault && <p className="text-soft">and every country that no region names</p>}
        </SideList>
        <SideList title="Accounts there">
          {there.slice(0, MOST_ACCOUNTS).map(({ id, name, code, city }) => (
            <SideRow key={id} name={name} href={recordHref('accounts', code)} about={city} />
          ))}
          {there.length === 0 && <p className="text-soft">None.</p>}
          {there.length > MOST_ACCOUNTS && (
            <p className="text-soft">and {there.length - MOST_ACCOUNTS} more</p>
          )}
        </SideList>
        <MentionList
          title="Rules for this region"
          mentions={mentionsOfBuyerOrPlace(
            store,
            () => false,
            (term) => term.kind === 'region' && term.region === loaded.id,
          )}
          none="None: nothing differs here but what the sentence says."
        />
      </>
    ),
    summary: effect?.summary ?? '',
  }
}

/** What guests there pay for some products. */
async function examplesThere({ before, after, id }: LoadedSheet, region: Region) {
  const requestContext = after ?? before
  const { prepared } = requestContext
  const [land] = region.countries
  if (!land || !prepared.store.region.has(id)) return null
  const [country = '', state = ''] = land.split('-')
  const look = {
    ...buyerContext({ kind: 'guest' }, requestContext.buyerContext.at),
    channel: requestContext.buyerContext.channel,
    deliverTo: { country, state, postcode: '', city: '' },
  }
  const there = priceSide(prepared, look, requestContext.quantity)
  const home = priceSide(prepared, { ...look, deliverTo: null }, requestContext.quantity)
  const sold = await soldVariants(prepared)
  const step = Math.max(1, Math.floor(sold.length / EXAMPLES))
  const rows = sold.filter((_, at) => at % step === 0).slice(0, EXAMPLES)
  const money = (side: typeof there, number: number) => {
    const amount = amountOn(side, number)
    return amount === null
      ? 'no price'
      : formatMoney(amount, side.pricingContext.currency, side.pricingContext.digits)
  }
  return (
    <SheetTable
      caption="What guests there pay"
      heads={[`What guests in ${landName(land)} pay`, 'At home', 'There']}
    >
      {rows.map(({ product, variant, number }) => (
        <tr key={variant.id}>
          <td>
            <VantageLink href={recordHref('products', product.code)} className="hover:underline">
              {itemName(product, variant)}
            </VantageLink>
          </td>
          <td className="text-soft">{money(home, number)}</td>
          <td className="font-semibold">{money(there, number)}</td>
        </tr>
      ))}
    </SheetTable>
  )
}
