'use client'

import { typedAmount } from '@/core/decimal/written-amount'
import type { PriceMethodDraft } from '@/core/price/parse-breaks'
import type { PriceReference } from '@/core/price/price-method'
import { useState } from 'react'
import type { ListName, TriedRule } from './rule-choices'
import { amountOf } from './rule-moves'

/** What a rule comes to, in one line. */
export function Total({ tried }: { readonly tried: Extract<TriedRule, { ok: true }> }) {
  const { count, mean, belowCost, froms } = tried
  const at = belowCost.findIndex((each) => each > 0)
  const way = mean?.startsWith('-') ? 'fall' : 'rise'
  return (
    <>
      <b>
        {count} {count === 1 ? 'price' : 'prices'}
        {mean !== null && mean !== '0' && ` ${way} by ${mean.replace('-', '')} % on average`}.
      </b>{' '}
      {at >= 0 && (
        <b className="text-error">
          {froms[at] === '0' ? '' : `From ${froms[at]}, `}
          {belowCost[at]} below cost.
        </b>
      )}
    </>
  )
}

/** One of a few, with a key to it. */
export function Choice({
  name,
  isChosen,
  onChoose,
}: {
  readonly name: string
  readonly isChosen: boolean
  readonly onChoose: () => void
}) {
  return (
    <button
      type="button"
      data-row
      role="radio"
      aria-checked={isChosen}
      className={`block w-full rounded-[3px] px-1 py-0.5 text-left focus:bg-chosen ${isChosen ? 'font-semibold' : ''}`}
      onClick={onChoose}
    >
      {isChosen ? '◉' : '○'} {name}
    </button>
  )
}

/** What a rule starts from. */
export function References({
  reference,
  lists,
  onChoose,
}: {
  readonly reference: PriceReference
  readonly lists: readonly ListName[]
  readonly onChoose: (reference: PriceReference) => void
}) {
  const plain = [
    ['base', 'base price'],
    ['recommended', 'recommended price'],
    ['cost', 'cost'],
  ] as const
  return (
    <>
      {plain.map(([kind, name]) => (
        <Choice
          key={kind}
          name={name}
          isChosen={reference.kind === kind}
          onChoose={() => onChoose({ kind })}
        />
      ))}
      {lists.length > 0 && (
        <>
          <Choice
            name="another price list"
            isChosen={reference.kind === 'list'}
            onChoose={() => onChoose({ kind: 'list', list: lists[0]?.id ?? '' })}
          />
          {reference.kind === 'list' && (
            <select
              aria-label="Price list it starts from"
              className="w-full border border-base-300 bg-lifted px-1 py-0.5"
              value={reference.list}
              onChange={(event) => onChoose({ kind: 'list', list: event.target.value })}
            >
              {lists.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          )}
        </>
      )}
    </>
  )
}

/** What the figure of a method is. */
export function amountTitle({ kind }: PriceMethodDraft): string {
  return {
    fixed: 'Price',
    percent: '% off (−) or on',
    amount: 'Off (−) or on',
    markup: '% on cost',
    margin: '% margin',
  }[kind]
}

/** A figure that is being typed stands as it is typed, and counts as soon as it is a number. */
export function AmountInput({
  label,
  method,
  onChange,
}: {
  readonly label: string
  readonly method: PriceMethodDraft
  readonly onChange: (amount: string) => void
}) {
  const [typed, setTyped] = useState<string | null>(null)
  return (
    <input
      inputMode="decimal"
      aria-label={label}
      className="w-24 border border-base-300 bg-lifted px-2 py-0.5 text-right"
      value={typed ?? amountOf(method).replace('-', '−')}
      onChange={(event) => {
        setTyped(event.target.value)
        const plain = typedAmount(event.target.value)
        if (/^-?\d+(\.\d+)?$/.test(plain)) onChange(plain)
      }}
      onBlur={() => setTyped(null)}
    />
  )
}
