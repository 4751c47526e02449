import 'server-only'

import { SideList, SideRow } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { flagOf } from '@/sheet/record/record-flags'
import { LineChart } from '@/ui/chart/line-chart'
import { currencyName } from '@/ui/format/place-names'
import { currencySentence } from './currency-sentence'
import { type CurrencyView, loadCurrency } from './load-currency'
import { loadPublished } from './load-published'
import { RateSection } from './rate-section'
import { RemoveRate } from './remove-rate'

export const currencySheet: SheetOfKind = {
  sentence: currencySentence,
  details: () => [],
  about: (record) => currencyName(String(record['code'])),
  flag: (record, requestContext) => flagOf(requestContext, 'currency', record),
  effect: drawCurrency,
}

async function drawCurrency(loaded: LoadedSheet): Promise<SheetEffect> {
  const view = await loadCurrency(loaded)
  const isNew = loaded.stored === null
  if (isNew)
    return {
      main: (
        <p className="text-soft">
          Choose the currency, then create it. Its exchange rate is set next, on its own sheet: without one,
          nothing can be paid in it.
        </p>
      ),
      side: null,
    }
  const published = loaded.view.live ? await loadPublished(loaded) : null
  const coming = view.rates.filter(({ isComing }) => isComing)
  return {
    main: (
      <>
        {view.rates.length > 1 && (
          <LineChart
            title={`${view.code} for 1 ${view.home}: each rate holds until the next, so a price of a past day uses that day’s rate`}
            points={view.rates}
          />
        )}
        <RateSection
          code={view.code}
          home={view.home}
          rate={view.rate?.rate ?? null}
          rows={view.rows}
          isTried={loaded.after !== null}
          live={loaded.view.live}
          published={published}
        />
        <details className="pt-4" open={coming.length > 0}>
          <summary className="cursor-pointer font-semibold">All {view.rates.length} rates</summary>
          <ol>
            {[...view.rates].reverse().map(({ id, text, day, source, isComing }) => (
              <li key={id} className="flex items-baseline gap-4 border-b border-base-300 py-1">
                <b className="w-44">
                  1 {view.home} = {text} {view.code}
                </b>
                <span className={isComing ? 'font-semibold text-accent' : 'text-soft'}>
                  {isComing ? 'from' : 'since'} {day}, {source}
                </span>
                {loaded.view.live && <RemoveRate id={id} label={`the rate of ${day}`} />}
              </li>
            ))}
          </ol>
        </details>
      </>
    ),
    side: <Side view={view} />,
    summary: loaded.after
      ? `${view.rows.filter(({ change }) => change !== null && change !== '0').length} of ${view.rows.length} example prices move`
      : '',
  }
}

function Side({ view }: { readonly view: CurrencyView }) {
  const { code, payers, own, ownCount, rate } = view
  return (
    <>
      <SideList title="The rate now">
        <p>{rate ? `${rate.rate}, since ${rate.since}` : 'None yet.'}</p>
      </SideList>
      <SideList title={`Who pays in ${code}`}>
        {payers.map(({ name, href, about }) => (
          <SideRow key={href} name={name} href={href} about={about} />
        ))}
        {payers.length === 0 && (
          <p className="text-soft">Nobody yet. Let a region, an account or a contract pay in it.</p>
        )}
      </SideList>
      <SideList title="Own amounts, never converted">
        {own.map(({ name, href, amount, about }) => (
          <SideRow key={`${href} ${name}`} name={name} href={href} about={about}>
            {amount}
          </SideRow>
        ))}
        {own.length === 0 && <p className="text-soft">None: every price is converted.</p>}
        {ownCount > 6 && <p className="pt-1 text-soft">{ownCount} in all.</p>}
      </SideList>
    </>
  )
}
