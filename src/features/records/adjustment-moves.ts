import 'server-only'

import type { BuyerReference } from '@/core/buyers/buyer'
import { variantName } from '@/core/catalogue/product'
import { compare, type Decimal } from '@/core/decimal/decimal'
import { refresh } from '@/core/engine/prepare'
import { priceColumn } from '@/core/engine/price-column'
import { fromUnits } from '@/core/engine/price-step'
import { standpoint } from '@/core/engine/standpoint'
import type { Adjustment } from '@/core/price/adjustment'
import { differencePercent } from '@/core/price/margin'
import { applyChanges, type Change } from '@/core/store/store'
import { type Outlook, situationOf } from '@/server/engine/look-from'
import { formatMoney, formatPercent } from '@/ui/format/amount'
import type { RelatedTable } from './record-view'
import { recordHref } from '@/ui/frame/record-href'

const EXAMPLES = 5

interface Move {
  readonly number: number
  readonly before: Decimal
  readonly after: Decimal
}

/** What switching an adjustment moves: for guests and every group, how many prices and how far, with the farthest. */
export function adjustmentMoves(outlook: Outlook, adjustment: Adjustment): RelatedTable {
  const { prepared, situation } = outlook
  const { store } = prepared
  const isOn = adjustment.state === 'on'
  const change: Change = {
    kind: 'adjustment',
    id: adjustment.id,
    before: adjustment,
    after: { ...adjustment, state: isOn ? 'off' : 'on' },
  }
  const switched = refresh(prepared, applyChanges(store, [change]), [change])
  const [without, having] = isOn ? [switched, prepared] : [prepared, switched]
  const buyers: readonly (readonly [string, BuyerReference])[] = [
    ['Guests', { kind: 'guest' }],
    ...[...store.group.values()]
      .filter(({ status }) => status === 'active')
      .sort((left, right) => left.position - right.position)
      .map(({ id, name }) => [name, { kind: 'group', group: id }] as const),
  ]
  let examples: readonly Move[] = []
  const rows = buyers.map(([name, buyer]) => {
    const look = standpoint(buyer, situation.at)
    const { digits } = situationOf(prepared, look)
    const before = priceColumn(without, situationOf(without, look), outlook.quantity).prices
    const after = priceColumn(having, situationOf(having, look), outlook.quantity).prices
    const moves: Move[] = []
    for (let number = 0; number < prepared.index.variantCount; number += 1) {
      const [old, now] = [before[number] as number, after[number] as number]
      if (Number.isNaN(old) || Number.isNaN(now) || old === now) continue
      moves.push({ number, before: fromUnits(old, digits), after: fromUnits(now, digits) })
    }
    if (moves.length > examples.length && examples.length === 0) examples = farthest(moves)
    return { title: name, about: movedText(moves, prepared.index.variantCount), href: null }
  })
  const { currency, digits } = situationOf(prepared, standpoint({ kind: 'guest' }, situation.at))
  return {
    title: isOn ? 'What it moves now' : 'What switching it on would move',
    about: 'Guests and every group, at this vantage’s day and quantity; then the prices it moves farthest.',
    rows: [
      ...rows,
      ...examples.map(({ number, before, after }) => {
        const variant = store.variant.get(prepared.index.items[number] as string)
        const product = variant && store.product.get(variant.product)
        return {
          title: product && variant ? `${product.name} ${variantName(product, variant)}`.trim() : '',
          about: `${formatMoney(before, currency, digits)} → ${formatMoney(after, currency, digits)}`,
          href: product ? recordHref('products', product.code) : null,
        }
      }),
    ],
  }
}

function farthest(moves: readonly Move[]): readonly Move[] {
  const size = ({ before, after }: Move) => {
    const percent = differencePercent(after, before) ?? ('0' as Decimal)
    return (percent.startsWith('-') ? percent.slice(1) : percent) as Decimal
  }
  return [...moves].sort((left, right) => compare(size(right), size(left))).slice(0, EXAMPLES)
}

function movedText(moves: readonly Move[], all: number): string {
  if (moves.length === 0) return 'nothing moves'
  const percents = moves.flatMap(({ before, after }) => differencePercent(after, before) ?? []).sort(compare)
  const [low, high] = [percents[0], percents.at(-1)]
  const span =
    low === undefined || high === undefined
      ? ''
      : low === high
        ? formatPercent(low)
        : `${formatPercent(low)} to ${formatPercent(high)}`
  return `${moves.length} of ${all} prices, ${span}`
}
