import { compare, type Decimal, decimal, multiply } from '@/core/decimal/decimal'
import { toFraction } from '@/core/decimal/fraction'
import { roundToDigits } from '@/core/decimal/rounding'
import type { What } from '@/core/predicates/what'
import { dearestSet } from '@/core/store/check-promotions'
import { PROMOTION_EXAMPLES } from '@/core/notation/offer-text'
import { writePromotionValue } from '@/core/notation/promotion-text'
import {
  type Promotion,
  PROMOTION_KINDS,
  type PromotionValue,
  type SetSaving,
} from '@/core/promotions/promotion'
import type { Store } from '@/core/store/store'
import { FieldLink } from '@/sheet/parts/field-tick'
import { PROMOTION_KIND_NAMES } from '@/ui/format/promotion-phrases'

/** The kinds side by side, and of a set how it saves: what is chosen is said in the sentence and can be changed there. */
export function KindChoice({
  store,
  promotion,
}: {
  readonly store: Store
  readonly promotion: Pick<Promotion, 'value' | 'scope'>
}) {
  const { value } = promotion
  return (
    <div className="grid grid-cols-[4.5rem_1fr] gap-y-1 pb-4">
      <span className="text-soft">Kind</span>
      <ul className="flex flex-wrap gap-x-5">
        {PROMOTION_KINDS.map((kind) => (
          <li key={kind}>
            <Choice
              isChosen={kind === value.kind}
              label={PROMOTION_KIND_NAMES[kind]}
              text={
                kind === 'set'
                  ? writePromotionValue(store, firstSet(store, promotion))
                  : PROMOTION_EXAMPLES[kind]
              }
            />
          </li>
        ))}
      </ul>
      {value.kind === 'set' && (
        <>
          <span className="text-soft">The {countOf(value)}</span>
          <ul className="flex flex-wrap gap-x-5">
            {setSavings(setPrice(store, promotion.scope, value.parts)).map(({ kind, label, saving }) => (
              <li key={kind}>
                <Choice
                  isChosen={kind === value.saving.kind}
                  label={label}
                  text={writePromotionValue(store, { ...value, saving })}
                />
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  )
}

function Choice({
  isChosen,
  label,
  text,
}: {
  readonly isChosen: boolean
  readonly label: string
  readonly text: string
}) {
  return isChosen ? (
    <b className="border-b-2 border-primary pb-0.5" aria-current="true">
      {label}
    </b>
  ) : (
    <FieldLink field="value" text={text} label={label} />
  )
}

const ANY_THREE = [{ count: 3, scope: null }] as const

function firstSet(store: Store, { scope }: Pick<Promotion, 'scope'>): PromotionValue {
  // Of everything the dearest set says nothing about the others.
  const saving: SetSaving = scope.include.some(({ kind }) => kind === 'everything')
    ? { kind: 'percent', percent: decimal(10) }
    : { kind: 'price', price: money(setPrice(store, scope, ANY_THREE)) }
  return { kind: 'set', parts: ANY_THREE, saving }
}

/** A tenth less than the dearest set, in whole units of the currency, so that it saves something to begin with. */
function setPrice(store: Store, scope: What, parts: Parameters<typeof dearestSet>[2]): Decimal {
  const dearest = dearestSet(store, scope, parts)
  if (dearest === null) return decimal(10)
  const less = multiply(dearest, decimal('0.9'))
  const isSmall = compare(less, decimal(1)) < 0
  return roundToDigits(toFraction(less), isSmall ? 2 : 0, 'down')
}

function countOf({ parts }: Extract<PromotionValue, { readonly kind: 'set' }>): number {
  return parts.reduce((total, { count }) => total + count, 0)
}

function money(amount: Decimal) {
  return { amount, own: {} }
}

function setSavings(price: Decimal): readonly {
  readonly kind: SetSaving['kind']
  readonly label: string
  readonly saving: SetSaving
}[] {
  return [
    { kind: 'price', label: 'have one price', saving: { kind: 'price', price: money(price) } },
    { kind: 'percent', label: 'get a percentage off', saving: { kind: 'percent', percent: decimal(10) } },
    { kind: 'amount', label: 'get an amount off', saving: { kind: 'amount', amount: money(decimal(5)) } },
    { kind: 'cheapest-free', label: 'the cheapest is free', saving: { kind: 'cheapest-free', count: 1 } },
  ]
}
