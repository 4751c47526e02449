'use client'

import { type OfferText, readOffer, writeOffer } from '@/core/notation/offer-text'
import { useState } from 'react'
import { PickerPanel } from '../panel/picker-panel'
import { Key } from '../panel/picker-parts'
import type { StripProps } from '../strips/strip'
import { TypedSentence } from '../typed-sentence'
import { useDone } from '../panel/use-done'
import { FreeGoods } from './free-goods'
import { OrderBrackets } from './order-brackets'
import { AmountInput } from '../amount-input'
import { Options, Row, SavingFields } from './saving-fields'
import { SetParts } from './set-parts'

interface OfferPickerProps extends StripProps {
  readonly placeholder: string
  /** Currencies in which amounts may be set instead of converted. */
  readonly currencies: readonly string[]
}

/** What a promotion does: each figure in a field of its own, and the whole as the sentence it is. */
export function OfferPicker({
  label,
  initial,
  placeholder,
  currencies,
  onDone,
  onCancel,
  onChange,
}: OfferPickerProps) {
  const [typed, setTyped] = useState(initial)
  const { problem, setProblem, isBusy, done } = useDone(onDone)
  const read = readOffer(typed)
  function type(text: string): void {
    setTyped(text)
    setProblem(null)
    onChange?.(text.trim() || 'an offer')
  }
  return (
    <PickerPanel
      label={label}

      problem={problem}
      isBusy={isBusy}
      keys={
        <>
          <Key>Tab</Key> next field · <Key>Enter</Key> keeps it
        </>
      }
      onDone={() => void done(typed)}
      onCancel={onCancel}

      foot={<span className="text-soft">The sample cart below shows what it does.</span>}
    >
      <TypedSentence
        title="Offer"
        label="Offer"
        placeholder={placeholder}
        value={typed}
        isWrong={!read.ok}
        problem={read.ok ? '' : 'not understood yet'}
        onType={type}
      />
      <div className="grid gap-2 px-6 py-3">
        {read.ok ? (
          <Fields offer={read.value} currencies={currencies} onChange={(offer) => type(writeOffer(offer))} />
        ) : (
          <p className="text-soft">{read.problem}</p>
        )}
      </div>
    </PickerPanel>
  )
}

interface FieldsProps<Offer extends OfferText = OfferText> {
  readonly offer: Offer
  readonly currencies: readonly string[]
  readonly onChange: (offer: OfferText) => void
}

function Fields({ offer, currencies, onChange }: FieldsProps) {
  switch (offer.kind) {
    case 'item-price':
      return (
        <>
          <SavingFields
            saving={offer.saving}
            currencies={currencies}
            kinds={['percent', 'amount', 'price']}
            onChange={(saving) => onChange({ ...offer, saving })}
          />
          <Row name="Other promotions">
            <Options
              label="Other promotions"
              options={[
                [false, 'may use these units too'],
                [true, 'are kept off them'],
              ]}
              value={offer.closes}
              onChange={(closes) => onChange({ ...offer, closes })}
            />
          </Row>
        </>
      )
    case 'by-quantity':
      return (
        <>
          <Row name="From">
            <AmountInput
              label="From so many together"
              value={offer.from}
              onChange={(from) => onChange({ ...offer, from })}
            />
            <span>together,</span>
            <Options
              label="Which units"
              options={[
                ['all', 'all of them'],
                ['above', 'only those above'],
              ]}
              value={offer.applies}
              onChange={(applies) => onChange({ ...offer, applies })}
            />
          </Row>
          <SavingFields
            saving={offer.saving}
            currencies={currencies}
            kinds={['percent', 'amount', 'price']}
            onChange={(saving) => onChange({ ...offer, saving })}
          />
        </>
      )
    case 'set':
      return (
        <>
          <SetParts parts={offer.parts} onChange={(parts) => onChange({ ...offer, parts })} />
          <SavingFields
            saving={offer.saving}
            currencies={currencies}
            kinds={['price', 'percent', 'amount', 'cheapest-free']}
            onChange={(saving) => onChange({ ...offer, saving })}
          />
        </>
      )
    case 'free-goods':
      return <FreeGoods offer={offer} onChange={onChange} />
    case 'order':
      return <OrderBrackets offer={offer} currencies={currencies} onChange={onChange} />
    case 'delivery':
      return (
        <SavingFields
          saving={offer.saving}
          currencies={currencies}
          kinds={['free', 'percent', 'amount', 'price']}
          onChange={(saving) => onChange({ ...offer, saving })}
        />
      )
    case 'payment':
      return (
        <>
          <Row name="Who pays">
            <Options
              label="Who pays"
              options={[
                ['card', 'by card'],
                ['terms', 'on the terms agreed'],
              ]}
              value={offer.payment}
              onChange={(payment) => onChange({ ...offer, payment })}
            />
            <Options
              label="More or less"
              options={[
                [false, 'pays less'],
                [true, 'pays more'],
              ]}
              value={offer.isSurcharge}
              onChange={(isSurcharge) => onChange({ ...offer, isSurcharge })}
            />
          </Row>
          <SavingFields
            saving={offer.saving}
            currencies={currencies}
            kinds={['percent', 'amount']}
            onChange={(saving) => onChange({ ...offer, saving })}
          />
        </>
      )
  }
}
