import 'server-only'

import type { Account } from '@/core/buyers/buyer'
import { countryCodes } from '@/core/places/iso-3166'
import { AgreePrice } from '@/sheet/parts/agree-price-button'
import { LadderRungs } from '@/sheet/parts/ladder-rungs'
import { SideList, SideRow } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { countryName } from '@/ui/format/place-names'
import { BuyerLinks } from './buyer-links'
import { VantageLink } from '@/ui/frame/vantage-link'
import { AddressCards } from './address-cards'
import { accountDetails, accountSentence } from './buyer-sentences'
import { type AccountView, loadAccount } from './load-account'
import { PeopleCards } from './people-cards'
import { OpenPromotions } from './open-promotions'

export const accountSheet: SheetOfKind = {
  sentence: accountSentence,
  details: accountDetails,
  about: (record) => String(record['code']),
  effect: drawAccount,
}

async function drawAccount(loaded: LoadedSheet): Promise<SheetEffect> {
  const view = await loadAccount(loaded)
  if (!view) return { main: <p className="text-soft">A name is enough to begin with.</p>, side: null }
  const account = loaded.record as unknown as Account
  const isNew = loaded.stored === null
  return {
    main: (
      <>
        <div className="grid gap-x-9 gap-y-5 xl:grid-cols-[1.4fr_1fr]">
          <section aria-label="Where their prices come from">
            <LadderRungs ladder={view.ladder} title="Where their prices come from" />
            {!isNew && loaded.view.live && (
              <AgreePrice party={{ kind: 'account', id: view.id }} name={view.name} />
            )}
          </section>
          <Terms view={view} account={account} />
        </div>
        {!isNew && (
          <PeopleCards
            view={loaded.view}
            people={view.people}
            others={account.emails.filter((email) => !view.people.some((each) => each.email === email))}
            currency={view.storeCurrency}
          />
        )}
        {!isNew && (
          <AddressCards
            view={loaded.view}
            addresses={view.addresses}
            seat={[
              [account.postcode, account.city].filter(Boolean).join(' '),
              countryName(account.country),
            ].filter(Boolean)}
            countries={countryCodes()
              .map((code) => ({ code, name: countryName(code) }))
              .sort((left, right) => left.name.localeCompare(right.name, 'en'))}
          />
        )}
      </>
    ),
    side: isNew ? null : <Side view={view} />,
    actions: isNew ? null : <BuyerLinks as={`account:${view.code}`} />,
  }
}

function Terms({ view, account }: { readonly view: AccountView; readonly account: Account }) {
  const rows: readonly (readonly [string, string])[] = [
    ['VAT number', account.taxNumber || 'none: taxed as a consumer'],
    ['Delivered to', countryName(account.country)],
    ['Pays in', `${view.currency}, ${view.currencyFrom}`],
    ['Exemption', account.exemption || 'none'],
    ['Paid within', account.paymentTerms || 'in advance'],
  ]
  return (
    <div>
      <h2 className="border-b border-base-content pb-1 font-semibold">Tax and terms</h2>
      <dl>
        {rows.map(([name, value]) => (
          <div key={name} className="flex justify-between gap-4 border-b border-base-300 py-1">
            <dt className="text-soft">{name}</dt>
            <dd className="text-right">{value}</dd>
          </div>
        ))}
      </dl>
      <h2 className="mt-5 border-b border-base-content pb-1 font-semibold">Contracts</h2>
      {view.contracts.map(({ name, href, about }) => (
        <SideRow key={href} name={name} href={href} about={about} />
      ))}
      {view.contracts.length === 0 && (
        <p className="py-1 text-soft">
          None.{' '}
          <VantageLink
            href={`/contracts/new?would=${encodeURIComponent(JSON.stringify({ accounts: view.name, name: `${view.name} supply` }))}`}
            className="link-name"
          >
            Make a contract with them
          </VantageLink>
        </p>
      )}
    </div>
  )
}

function Side({ view }: { readonly view: AccountView }) {
  const { ladder, hidden, withoutPrice, limits, code, name } = view
  return (
    <>
      <SideList title="In the shop, as them">
        <p className="pb-2">
          See <b>{ladder.see}</b> of {ladder.total} variants, may buy <b>{ladder.buy}</b>
        </p>
        <VantageLink
          href="/look-as-buyer?page=/shop"
          lookAs={`account:${code}`}
          className="btn btn-primary btn-sm"
        >
          Open the shop as {name.split(' ')[0]}
        </VantageLink>
      </SideList>
      <SideList title="Hidden from them">
        {hidden.map(({ because, count, some }) => (
          <SideRow key={because} name={some} about={because}>
            {count}
          </SideRow>
        ))}
        {hidden.length === 0 && <p className="text-soft">Nothing: all of it is shown to them.</p>}
      </SideList>
      {withoutPrice.length > 0 && (
        <SideList title="Seen, but cannot be bought">
          {withoutPrice.map(({ name: item, href }) => (
            <SideRow key={href} name={item} href={href} about="has no price" />
          ))}
        </SideList>
      )}
      <SideList title="Orders">
        {view.orders.map((order) => (
          <SideRow key={order.href} name={order.name} href={order.href} about={order.about}>
            {order.due}
          </SideRow>
        ))}
        {view.orders.length === 0 ? (
          <p className="text-soft">None yet.</p>
        ) : (
          <VantageLink href={`/orders?show=all&buyer=${encodeURIComponent(name)}`} className="link-name">
            All of their orders
          </VantageLink>
        )}
      </SideList>
      {view.quotes.length > 0 && (
        <SideList title="Quotes">
          {view.quotes.map((quote) => (
            <SideRow key={quote.href} name={quote.name} href={quote.href} about={quote.about}>
              {quote.due}
            </SideRow>
          ))}
        </SideList>
      )}
      <OpenPromotions promotions={view.promotions} />
      <SideList title="Limits on their orders">
        {limits.map(({ name: limit, href, about }) => (
          <SideRow key={`${href} ${about}`} name={limit} href={href} about={about} />
        ))}
        {limits.length === 0 && <p className="text-soft">None.</p>}
      </SideList>
    </>
  )
}
