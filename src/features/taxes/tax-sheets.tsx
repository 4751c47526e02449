import 'server-only'

import { soldVariants } from '@/server/engine/sold-variants'
import { SheetTable } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { spanPhrase } from '@/ui/format/rule-phrases'
import { countryName } from '@/ui/format/place-names'
import { VantageLink } from '@/ui/frame/vantage-link'
import { taxClassSentence, taxDetails, taxSentence } from './tax-sentences'

export const taxClassSheet: SheetOfKind = {
  sentence: taxClassSentence,
  details: taxDetails,
  effect: drawClass,
}

export const taxSheet: SheetOfKind = {
  sentence: taxSentence,
  details: taxDetails,
  effect: (loaded) => drawRates(loaded, (rate) => rate.tax === loaded.id),
}

async function drawClass(loaded: LoadedSheet): Promise<SheetEffect> {
  const { store } = loaded.before.prepared
  const own = (await soldVariants(loaded.before.prepared)).filter(
    ({ variant, product }) => (variant.taxClass ?? product.taxClass) === loaded.id,
  ).length
  const isUsual = store.settings.get('settings')?.taxClass === loaded.id
  const drawn = drawRates(loaded, (rate) => rate.taxClass === loaded.id)
  return {
    ...drawn,
    main: (
      <>
        <p className="pb-3">
          <b>{own} variants</b> name it
          {isUsual && ', and every other takes it: it is the store’s usual class'}.
        </p>
        {drawn.main}
      </>
    ),
  }
}

type Rate = { readonly tax: string; readonly taxClass: string | null }

function drawRates({ before, stored }: LoadedSheet, isIn: (rate: Rate) => boolean): SheetEffect {
  const { store } = before.prepared
  if (!stored)
    return { main: <p className="text-soft">A name is enough; its rates follow under Rates.</p>, side: null }
  const rates = [...store['tax-rate'].values()]
    .filter(isIn)
    .sort((left, right) => countryName(left.country).localeCompare(countryName(right.country), 'en'))
  return {
    main: (
      <>
        <SheetTable caption="Rates" heads={['Where', 'Tax', 'Class', 'When', 'Percent']}>
          {rates.map(({ id, tax, taxClass, country, state, postcode, city, from, to, percent }) => (
            <tr key={id}>
              <td>
                {[city, postcode, state, country ? countryName(country) : 'everywhere']
                  .filter(Boolean)
                  .join(', ')}
              </td>
              <td>{store.tax.get(tax)?.name}</td>
              <td>{taxClass === null ? 'every class' : store['tax-class'].get(taxClass)?.name}</td>
              <td className="text-soft">{spanPhrase(from, to)}</td>
              <td className="font-semibold">{percent}</td>
            </tr>
          ))}
        </SheetTable>
        {rates.length === 0 && <p className="py-2 text-soft">It has no rate yet.</p>}
        <p className="pt-2">
          <VantageLink href="/taxes" className="link-name">
            Change rates
          </VantageLink>
        </p>
      </>
    ),
    side: null,
  }
}
