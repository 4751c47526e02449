import { merchantPage } from '@/server/session/permit'
import { SectionTabs } from '@/features/records/section-tabs'
import { placesOf } from '@/features/taxes/places-of'
import { countryName } from '@/ui/format/place-names'
import { loadTaxes } from '@/features/taxes/load-taxes'
import { TaxesPage } from '@/features/taxes/taxes-page'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Taxes' }

export default merchantPage(
  'prices:look',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    const fields = await searchParams
    const text = (name: string) => (fields[name] ?? '').trim()
    const requestContext = await lookFrom(parseVantage(new URLSearchParams(fields)))
    const tried = {
      sku: text('sku'),
      country: text('country').toUpperCase(),
      state: text('state').toUpperCase(),
      postcode: text('postcode'),
      city: text('city'),
    }
    const view = loadTaxes(requestContext, tried)
    return (
      <TaxesPage
        view={view}
        places={placesOf(view.rows)}
        countryName={tried.country === '' ? '' : countryName(tried.country)}
        tabs={<SectionTabs place="Taxes" path="taxes" />}
      />
    )
  },
)
