import type { Rights } from '@/core/access/access'
import type { ClassImpact } from '@/core/impact/class-impact'
import type { Store } from '@/core/store/store'
import { nameOfClass } from './class-names'
import type { SeesRow } from '../review/review-view'
import { titleOf } from './title-of'

const WAYS: readonly (readonly [what: string, holds: (before: Rights, after: Rights) => boolean])[] = [
  ['no longer see', (before, after) => before.see && !after.see],
  ['see from now on', (before, after) => !before.see && after.see],
  [
    'see no price any more of',
    (before, after) => after.see && before.see && before.seePrice && !after.seePrice,
  ],
  ['see the price of', (before, after) => after.see && before.see && !before.seePrice && after.seePrice],
  [
    'can no longer buy',
    (before, after) => after.see && before.buy && !after.buy && before.seePrice === after.seePrice,
  ],
  [
    'can buy from now on',
    (before, after) =>
      after.see && before.see && !before.buy && after.buy && before.seePrice === after.seePrice,
  ],
]

/** What a class of buyers sees, and may buy, otherwise. */
export function seesRows({ of, rights }: ClassImpact, store: Store, before: Store): readonly SeesRow[] {
  const { name } = nameOfClass(of, store, before)
  return WAYS.flatMap(([what, holds]) => {
    const items = rights.filter((each) => holds(each.before, each.after))
    const some = items
      .slice(0, 3)
      .map(({ variant }) => titleOf(variant, store, before))
      .join(' · ')
    return items.length === 0 ? [] : [{ name, what, count: items.length, some }]
  })
}

/** That limits or taxes of a class are others. */
export function otherLines(
  { of, limits, taxes }: ClassImpact,
  store: Store,
  before: Store,
): readonly string[] {
  const { name } = nameOfClass(of, store, before)
  const line = (count: number, what: string) =>
    count === 0 ? [] : [`${name}: other ${what} for ${count} ${count === 1 ? 'variant' : 'variants'}`]
  return [...line(limits.length, 'limits'), ...line(taxes.length, 'taxes')]
}
