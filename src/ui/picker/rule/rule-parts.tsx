'use client'

import type { PriceMethodInput } from '@/core/price/lines/parse-breaks'
import type { PriceReference } from '@/core/price/lines/price-method'
import type { ListName, TriedRule } from './rule-choices'

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
export function amountTitle({ kind }: PriceMethodInput): string {
  return {
    fixed: 'Price',
    percent: '% off (−) or on',
    amount: 'Off (−) or on',
    markup: '% on cost',
    margin: '% margin',
  }[kind]
}
