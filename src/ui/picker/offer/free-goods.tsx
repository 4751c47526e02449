'use client'

import type { OfferText } from '@/core/notation/offer-text'
import { useState } from 'react'
import { useVariantSource } from '../picker-sources'
import { useFound } from '../what/what-source'
import { AmountInput } from '../amount-input'
import { Options, RemoveButton, Row } from './saving-fields'

const MOST_FOUND = 6
/** What stands for a gift that is still to be chosen: no SKU, so that it is asked for. */
const NOTHING_YET = '?'

type FreeGoodsOffer = Extract<OfferText, { readonly kind: 'free-goods' }>

/** From so many bought, so many free: of the same, of those bought, or something else. */
export function FreeGoods({
  offer,
  onChange,
}: {
  readonly offer: FreeGoodsOffer
  readonly onChange: (offer: OfferText) => void
}) {
  const { brackets, gift, repeats } = offer
  const put = (at: number, part: Partial<FreeGoodsOffer['brackets'][number]>) =>
    onChange({
      ...offer,
      brackets: brackets.map((each, place) => (place === at ? { ...each, ...part } : each)),
    })
  const last = brackets.at(-1)
  return (
    <>
      {brackets.map(({ from, free }, at) => (
        <Row key={at} name={at === 0 ? 'Bought' : 'or bought'}>
          <AmountInput
            label={`Bought, row ${at + 1}`}
            value={String(from)}
            onChange={(typed) => put(at, { from: Number(typed) })}
          />
          <span>free</span>
          <AmountInput
            label={`Free, row ${at + 1}`}
            value={String(free)}
            onChange={(typed) => put(at, { free: Number(typed) })}
          />
          {brackets.length > 1 && (
            <RemoveButton
              label={`Remove row ${at + 1}`}
              onRemove={() => onChange({ ...offer, brackets: brackets.filter((_, place) => place !== at) })}
            />
          )}
        </Row>
      ))}
      <div>
        <button
          type="button"
          className="link-name"
          onClick={() =>
            onChange({
              ...offer,
              brackets: [...brackets, { from: (last?.from ?? 6) * 2, free: (last?.free ?? 0) + 1 }],
            })
          }
        >
          Add a quantity
        </button>
      </div>
      <Row name="Free are">
        <Options
          label="Free are"
          options={[
            ['same', 'more of the same'],
            ['bought', 'the cheapest of those bought'],
            ['other', 'something else'],
          ]}
          value={typeof gift === 'string' ? gift : 'other'}
          onChange={(kind) => onChange({ ...offer, gift: kind === 'other' ? { sku: NOTHING_YET } : kind })}
        />
      </Row>
      {typeof gift !== 'string' && (
        <GiftField sku={gift.sku} onChange={(sku) => onChange({ ...offer, gift: { sku } })} />
      )}
      <Row name="How often">
        <Options
          label="How often"
          options={[
            [true, 'each time it is reached'],
            [false, 'once an order'],
          ]}
          value={repeats}
          onChange={(each) => onChange({ ...offer, repeats: each })}
        />
      </Row>
    </>
  )
}

/** The SKU of the gift, found by its name. */
function GiftField({ sku, onChange }: { readonly sku: string; readonly onChange: (sku: string) => void }) {
  const find = useVariantSource()
  const [typed, setTyped] = useState(sku === NOTHING_YET ? '' : sku)
  const [isPicked, setPicked] = useState(true)
  const found = useFound({ find }, isPicked ? '' : typed)
  return (
    <Row name="The gift">
      <input
        aria-label="SKU of the gift"
        placeholder="SKU or name"
        className="w-56 border border-base-300 bg-lifted px-2 py-0.5"
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value)
          setPicked(false)
          if (event.target.value.trim() !== '') onChange(event.target.value.trim())
        }}
      />
      {found.slice(0, MOST_FOUND).map(({ sku: each, name }) => (
        <button
          key={each}
          type="button"
          className="link-name"
          onClick={() => {
            setTyped(each)
            setPicked(true)
            onChange(each)
          }}
        >
          {name}
        </button>
      ))}
    </Row>
  )
}
