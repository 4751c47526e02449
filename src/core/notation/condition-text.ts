import { typedAmount } from '../decimal/written-amount'
import type { PromotionInput } from '../promotions/parse-promotion'
import type { Condition } from '../promotions/promotion'
import { readMoney, writeMoney } from './offer-text'
import type { ReadRule } from './read-rule'

type ConditionInput = PromotionInput['conditions'][number]

const OF = { cart: 'order', scope: 'goods' } as const

/**
 * What must be so for a promotion, one after the other between semicolons: `order from 40`, `goods of 12`,
 * `order of 5 kg`, `3 orders in 90 days`, `spent 500`, `first order`, `paid by card`, `code SWARM10`. The order is
 * everything in the cart, the goods are what the promotion is for.
 *
 * Holds   `readConditions(writeConditions(conditions))` is `conditions`.
 */
export function writeConditions(conditions: readonly Condition[]): string {
  return conditions.map(writeCondition).join('; ')
}

function writeCondition(condition: Condition): string {
  switch (condition.kind) {
    case 'value':
      return `${OF[condition.of]} from ${writeMoney(condition.from)}`
    case 'quantity':
      return `${OF[condition.of]} of ${condition.from}`
    case 'weight':
      return `${OF[condition.of]} of ${condition.from} kg`
    case 'orders':
      return `${condition.from} ${condition.from === 1 ? 'order' : 'orders'}${within(condition.days)}`
    case 'spend':
      return `spent ${writeMoney(condition.from)}${within(condition.days)}`
    case 'first-order':
      return 'first order'
    case 'payment':
      return condition.payment === 'card' ? 'paid by card' : 'paid on terms'
    case 'code':
      return `code ${condition.code}`
  }
}

function within(days: number | null): string {
  return days === null ? '' : ` in ${days} days`
}

/** Errors  names the condition that means nothing. */
export function readConditions(text: string): ReadRule<readonly ConditionInput[]> {
  const conditions: ConditionInput[] = []
  for (const part of text.split(';').map((each) => each.trim().replace(/\s+/g, ' '))) {
    if (part === '') continue
    const read = readCondition(part)
    if (!read)
      return {
        ok: false,
        problem: `“${part}” is no condition. Write “order from 40”, “goods of 12”, “order of 5 kg”, “3 orders in 90 days”, “spent 500”, “first order”, “paid by card” or “code SWARM10”.`,
      }
    conditions.push(read)
  }
  return { ok: true, value: conditions }
}

function readCondition(text: string): ConditionInput | null {
  if (/^first order$/i.test(text)) return { kind: 'first-order' }
  const paid = /^paid (by card|on terms)$/i.exec(text)
  if (paid) return { kind: 'payment', payment: /card/i.test(text) ? 'card' : 'terms' }
  const code = /^code (.+)$/i.exec(text)
  if (code) return { kind: 'code', code: code[1] as string }
  const orders = /^(\d+) orders?(?: in (\d+) days?)?$/i.exec(text)
  if (orders) return { kind: 'orders', from: Number(orders[1]), days: daysOf(orders[2]) }
  const spent = /^spent (.+?)(?: in (\d+) days?)?$/i.exec(text)
  if (spent) {
    const from = readMoney(spent[1] as string)
    return from && { kind: 'spend', from, days: daysOf(spent[2]) }
  }
  const counted = /^(order|goods) (from|of) (.+?)( kg)?$/i.exec(text)
  if (!counted) return null
  const [, word = '', how = '', size = '', weight] = counted
  const of = word.toLowerCase() === 'order' ? 'cart' : 'scope'
  if (how.toLowerCase() === 'of')
    return { kind: weight === undefined ? 'quantity' : 'weight', from: typedAmount(size), of }
  const from = weight === undefined ? readMoney(size) : null
  return from && { kind: 'value', from, of }
}

function daysOf(text: string | undefined): number | null {
  return text === undefined ? null : Number(text)
}
