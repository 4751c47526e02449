import type { PriceMethodInput } from '@/core/price/lines/parse-breaks'
import type { PriceReference } from '@/core/price/lines/price-method'

export type RuleKind = PriceMethodInput['kind']

export const KINDS: readonly { readonly kind: RuleKind; readonly name: string }[] = [
  { kind: 'fixed', name: 'a fixed price' },
  { kind: 'percent', name: 'percent off or on' },
  { kind: 'amount', name: 'an amount off or on' },
  { kind: 'markup', name: 'cost plus a markup' },
  { kind: 'margin', name: 'cost at a margin' },
]

/** The one figure of a method, as it is typed. */
export function amountOf(method: PriceMethodInput): string {
  return method.kind === 'fixed' || method.kind === 'amount' ? method.amount : method.percent
}

export function withAmount(method: PriceMethodInput, amount: string): PriceMethodInput {
  return method.kind === 'fixed' || method.kind === 'amount'
    ? { ...method, amount }
    : { ...method, percent: amount }
}

export function withReference(method: PriceMethodInput, reference: PriceReference): PriceMethodInput {
  return method.kind === 'percent' || method.kind === 'amount' ? { ...method, reference } : method
}

/** What a figure of another kind begins with, where the old one would make no sense. */
const FIRST: Readonly<Record<RuleKind, string>> = {
  fixed: '10',
  percent: '-10',
  amount: '-1',
  markup: '40',
  margin: '35',
}

/** A method made another kind, with what it starts from and, within its kind, its figure kept. */
export function switchedTo(
  { kind }: { readonly kind: RuleKind },
  method: PriceMethodInput,
): PriceMethodInput {
  if (method.kind === kind) return method
  const reference: PriceReference =
    method.kind === 'percent' || method.kind === 'amount' ? method.reference : { kind: 'base' }
  switch (kind) {
    case 'fixed':
      return { kind, amount: FIRST.fixed }
    case 'percent':
      return { kind, percent: FIRST.percent, reference }
    case 'amount':
      return { kind, amount: FIRST.amount, reference }
    case 'markup':
    case 'margin':
      return { kind, percent: FIRST[kind] }
  }
}
