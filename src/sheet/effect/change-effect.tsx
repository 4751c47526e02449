import 'server-only'

import { itemName } from '@/core/catalogue/product'
import { compare, type Decimal } from '@/core/decimal/decimal'
import { differencePercent } from '@/core/decimal/difference-percent'
import { formatAmount, formatPercent } from '@/ui/format/amount'
import { recordHref } from '@/ui/frame/record-href'
import { VantageLink } from '@/ui/frame/vantage-link'
import type { LoadedSheet } from '../record/load-sheet'
import { SheetTable } from '../parts/side-parts'
import { type EffectBuyer, buyerContextOf, usualBuyers } from './buyers'
import { type PriceMove, type MovesSummary, priceMoves, priceSide, summaryOf } from './price-moves'

/** What saving what is typed would move: for guests and every group, and the prices it moves farthest. */
export interface ChangeEffect {
  readonly buyers: readonly { readonly buyer: EffectBuyer; readonly summary: MovesSummary }[]
  readonly farthest: readonly (PriceMove & { readonly digits: number })[]
  readonly of: string
  readonly summary: string
}

const EXAMPLES = 6

/** Errors  `null` where nothing is typed, or what is typed could not be saved. */
export async function changeEffect({
  before,
  after,
}: Pick<LoadedSheet, 'before' | 'after'>): Promise<ChangeEffect | null> {
  if (!after) return null
  const buyers: { buyer: EffectBuyer; summary: MovesSummary }[] = []
  let [farthest, of]: [ChangeEffect['farthest'], string] = [[], '']
  for (const buyer of usualBuyers(after.prepared.store)) {
    const look = { ...buyerContextOf(buyer, before), deliverTo: before.buyerContext.deliverTo }
    const side = priceSide(after.prepared, look, before.quantity)
    const moves = await priceMoves(priceSide(before.prepared, look, before.quantity), side)
    buyers.push({ buyer, summary: summaryOf(moves) })
    if (farthest.length === 0 && moves.length > 0) {
      farthest = farthestOf(moves).map((move) => ({ ...move, digits: side.pricingContext.digits }))
      of = buyer.name
    }
  }
  const moved = buyers.reduce((sum, { summary }) => sum + summary.moved, 0)
  const below = buyers.reduce((sum, { summary }) => sum + summary.belowCost, 0)
  return {
    buyers,
    farthest,
    of,
    summary:
      moved === 0
        ? 'no price moves'
        : `${moved} prices move${below > 0 ? `, ${below} of them below cost` : ''}`,
  }
}

function farthestOf(moves: readonly PriceMove[]): readonly PriceMove[] {
  const size = ({ before, after }: PriceMove): Decimal => {
    const percent = before === null || after === null ? null : differencePercent(after, before)
    return ((percent ?? '0').replace('-', '') || '0') as Decimal
  }
  return [...moves].sort((left, right) => compare(size(right), size(left))).slice(0, EXAMPLES)
}

/** The same as two tables: by buyer, and the farthest moves before → after. */
export function ChangeEffectTables({
  effect,
  isNarrow = false,
}: {
  readonly effect: ChangeEffect
  /** One below the other, for the side of a page. */
  readonly isNarrow?: boolean
}) {
  const { buyers, farthest, of } = effect
  return (
    <section
      aria-label="What saving would move"
      className={`grid gap-x-8 gap-y-4 pb-5 ${isNarrow ? 'text-xs' : 'xl:grid-cols-2'}`}
    >
      <SheetTable caption="By buyer" heads={['What saving would move', 'Prices', 'Mean', 'Below cost']}>
        {buyers.map(({ buyer, summary }) => (
          <tr key={buyer.code}>
            <td>{buyer.name}</td>
            <td className={summary.moved > 0 ? 'font-semibold' : 'text-soft'}>{summary.moved || 'none'}</td>
            <td className="whitespace-nowrap">{summary.mean === null ? '–' : formatPercent(summary.mean)}</td>
            <td className={summary.belowCost > 0 ? 'font-semibold text-error' : 'text-soft'}>
              {summary.belowCost || 'none'}
            </td>
          </tr>
        ))}
      </SheetTable>
      {farthest.length > 0 && (
        <SheetTable caption="Farthest" heads={[`Moves most, for ${of}`, 'Before', 'After', 'Change']}>
          {farthest.map(({ item, before, after, digits }) => (
            <tr key={item.variant.id}>
              <td>
                <VantageLink href={recordHref('products', item.product.code)} className="hover:underline">
                  {itemName(item.product, item.variant)}
                </VantageLink>
              </td>
              <td className="text-soft">{before === null ? 'none' : formatAmount(before, digits)}</td>
              <td className="bg-warning font-semibold">
                {after === null ? 'none' : formatAmount(after, digits)}
              </td>
              <td className="whitespace-nowrap">
                {before === null || after === null
                  ? '–'
                  : formatPercent(differencePercent(after, before) ?? ('0' as Decimal))}
              </td>
            </tr>
          ))}
        </SheetTable>
      )}
    </section>
  )
}
