import { decimal } from '@/core/decimal/decimal'
import { PROMOTION_EXAMPLES, writePromotionValue } from '@/core/notation/promotion-text'
import {
  type Promotion,
  PROMOTION_KINDS,
  type PromotionKind,
  type PromotionValue,
  type SetSaving,
} from '@/core/promotions/promotion'
import type { Store } from '@/core/store/store'
import { FieldLink } from '@/sheet/parts/field-tick'
import { PROMOTION_KIND_NAMES } from '@/ui/format/promotion-phrases'

/** The kinds side by side, and of a set how it saves: what is chosen is said in the sentence and can be changed there. */
export function KindChoice({ store, value }: { readonly store: Store; readonly value: PromotionValue }) {
  return (
    <div className="grid grid-cols-[4.5rem_1fr] gap-y-1 pb-4">
      <span className="text-soft">Kind</span>
      <ul className="flex flex-wrap gap-x-5">
        {PROMOTION_KINDS.map((kind) => (
          <li key={kind}>
            <Choice
              isChosen={kind === value.kind}
              label={PROMOTION_KIND_NAMES[kind]}
              text={textOf(kind, value)}
            />
          </li>
        ))}
      </ul>
      {value.kind === 'set' && (
        <>
          <span className="text-soft">The {countOf(value)}</span>
          <ul className="flex flex-wrap gap-x-5">
            {SET_SAVINGS.map(({ kind, label, saving }) => (
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

function textOf(kind: PromotionKind, value: Promotion['value']): string {
  return kind === value.kind ? '' : PROMOTION_EXAMPLES[kind]
}

function countOf({ parts }: Extract<PromotionValue, { readonly kind: 'set' }>): number {
  return parts.reduce((total, { count }) => total + count, 0)
}

function money(amount: string) {
  return { amount: decimal(amount), own: {} }
}

const SET_SAVINGS: readonly {
  readonly kind: SetSaving['kind']
  readonly label: string
  readonly saving: SetSaving
}[] = [
  { kind: 'price', label: 'have one price', saving: { kind: 'price', price: money('60') } },
  { kind: 'percent', label: 'get a percentage off', saving: { kind: 'percent', percent: decimal('10') } },
  {
    kind: 'amount',
    label: 'get an amount off',
    saving: { kind: 'amount', amount: money('5') },
  },
  { kind: 'cheapest-free', label: 'the cheapest is free', saving: { kind: 'cheapest-free', count: 1 } },
]
