'use client'

import type { OfferText } from '@/core/notation/offer-text'
import { MoneyFields, Options, RemoveButton, Row, SavingFigure, switchedTo } from './saving-fields'

type OrderOffer = Extract<OfferText, { readonly kind: 'order' }>
type Bracket = OrderOffer['brackets'][number]

/** What is taken off an order, by what it comes to. */
export function OrderBrackets({
  offer,
  currencies,
  onChange,
}: {
  readonly offer: OrderOffer
  readonly currencies: readonly string[]
  readonly onChange: (offer: OfferText) => void
}) {
  const { brackets } = offer
  const put = (at: number, part: Partial<Bracket>) =>
    onChange({
      ...offer,
      brackets: brackets.map((each, place) => (place === at ? { ...each, ...part } : each)),
    })
  const last = brackets.at(-1)
  return (
    <>
      {brackets.map(({ from, saving }, at) => (
        <div key={at} className="grid gap-1 border-b border-dotted border-base-300 pb-2">
          {from ? (
            <MoneyFields
              name="From an order of"
              money={from}
              currencies={currencies}
              onChange={(money) => put(at, { from: money })}
            />
          ) : (
            <Row name="Every order">
              <button
                type="button"
                className="link-name"
                onClick={() => put(at, { from: { amount: '100', own: {} } })}
              >
                only from an amount on
              </button>
            </Row>
          )}
          <Row name="It saves">
            <Options
              label={`It saves, row ${at + 1}`}
              options={[
                ['percent', 'a percentage off'],
                ['amount', 'an amount off'],
              ]}
              value={saving.kind}
              onChange={(kind) => put(at, { saving: switchedTo<Bracket['saving']>(kind, saving) })}
            />
            {brackets.length > 1 && (
              <RemoveButton
                label={`Remove row ${at + 1}`}
                onRemove={() => onChange({ ...offer, brackets: brackets.filter((_, place) => place !== at) })}
              />
            )}
          </Row>
          <SavingFigure
            saving={saving}
            currencies={currencies}
            onChange={(next) => put(at, { saving: next })}
          />
        </div>
      ))}
      <div>
        <button
          type="button"
          className="link-name"
          onClick={() =>
            last &&
            onChange({
              ...offer,
              brackets: [
                ...brackets,
                { ...last, from: { amount: String(2 * Number(last.from?.amount ?? 50)), own: {} } },
              ],
            })
          }
        >
          Add an amount
        </button>
      </div>
    </>
  )
}
