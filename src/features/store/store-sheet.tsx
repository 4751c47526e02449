import 'server-only'

import { decimal, subtract } from '@/core/decimal/decimal'
import { answer } from '@/core/engine/ask'
import { getSettings, priceDigitsOf } from '@/core/store/store'
import type { RequestContext } from '@/server/engine/request-context'
import { soldVariants } from '@/server/engine/sold-variants'
import { buyerContextOf, usualBuyers } from '@/sheet/effect/buyers'
import { changeEffect, ChangeEffectTables } from '@/sheet/effect/change-effect'
import { SheetTable, SideList, SideRow } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { formatMoney } from '@/ui/format/amount'
import { countryName, currencyName } from '@/ui/format/place-names'
import { storeDetails, storeSentence } from './store-sentence'

export const storeSheet: SheetOfKind = {
  sentence: storeSentence,
  details: storeDetails,
  effect: drawStore,
}

/** The store's rules beside prices they make. */
async function drawStore(loaded: LoadedSheet): Promise<SheetEffect> {
  const effect = await changeEffect(loaded)
  const requestContext = loaded.after ?? loaded.before
  const rows = await sampleRows(requestContext)
  const settings = getSettings(requestContext.prepared.store)
  return {
    main: (
      <>
        {effect && <ChangeEffectTables effect={effect} />}
        <SheetTable
          caption="What the rules make"
          heads={['What these rules make of one product', 'Product', 'Pays', 'Tax', 'Compared with']}
        >
          {rows.map(({ buyer, product, pays, tax, compared }) => (
            <tr key={buyer}>
              <td>{buyer}</td>
              <td>{product}</td>
              <td className="font-semibold">{pays}</td>
              <td className="text-soft">{tax}</td>
              <td className="text-soft">{compared}</td>
            </tr>
          ))}
        </SheetTable>
      </>
    ),
    side: (
      <SideList title="The store">
        <SideRow name="Sells from">{countryName(settings.country)}</SideRow>
        <SideRow name="Currency">{currencyName(settings.currency)}</SideRow>
        <SideRow name="Time zone">{settings.timeZone}</SideRow>
        <SideRow name="Tax registrations">{Object.keys(settings.taxRegistrations).length}</SideRow>
      </SideList>
    ),
    summary: effect?.summary ?? '',
  }
}

/** One product as each kind of buyer gets it. */
async function sampleRows(requestContext: RequestContext) {
  const { prepared } = requestContext
  const { store } = prepared
  const priced = (await soldVariants(prepared)).filter(
    ({ variant, product }) => (variant.basePrice ?? product.basePrice) !== null,
  )
  // One of the usual class: what it costs with tax says most.
  const item =
    priced.find(({ variant, product }) => (variant.taxClass ?? product.taxClass) === null) ?? priced[0]
  if (!item) return []
  return usualBuyers(store).flatMap((buyer) => {
    const asked = answer(prepared, {
      ...buyerContextOf(buyer, requestContext),
      variant: item.variant.id,
      quantity: decimal(1),
      extras: [],
      basket: [],
    })
    if (!asked.ok) return []
    const { currency, unit, tax, was } = asked.value
    const money = (amount: Parameters<typeof formatMoney>[0]) =>
      formatMoney(amount, currency, priceDigitsOf(store, currency))
    return [
      {
        buyer: buyer.name,
        product: item.product.name,
        pays: unit === null ? 'no price' : money(unit),
        tax: tax ? money(subtract(tax.gross, tax.net)) : 'none',
        compared: was === null ? 'nothing' : money(was.amount),
      },
    ]
  })
}
