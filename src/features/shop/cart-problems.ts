import 'server-only'

import type { Cart, CartProblem, LimitProblem } from '@/core/cart/cart'
import { compare, type Decimal, subtract, sum, ZERO } from '@/core/decimal/decimal'
import type { PreparedStore } from '@/core/engine/prepared-store'
import type { PlacePart } from '@/core/tax/find-levies'
import { isForEverything } from '@/core/limits/limit'
import type { Nearest } from '@/core/limits/nearest-quantities'
import { formatMoney } from '@/ui/format/amount'
import type { CartProblemView } from './cart-view'
import { notForSale } from './shop-sentences'

/** Each problem of a cart as a sentence, with the quantities that would mend it. */
export function problemViews({ store }: PreparedStore, cart: Cart): readonly CartProblemView[] {
  const nameOf = (line: number) => {
    const variant = store.variant.get(cart.lines[line]?.variant ?? '')
    return store.product.get(variant?.product ?? '')?.name ?? ''
  }
  // What the address lacks is asked for where it is typed.
  const problems = cart.problems.filter(({ kind }) => kind !== 'place')
  return problems.map((problem): CartProblemView => {
    switch (problem.kind) {
      case 'access':
        return {
          text: `${nameOf(problem.line)}: ${notForSale({ ...problem.access, because: problem.access.because })}`,
          line: problem.line,
          fixes: [],
        }
      case 'no-price':
        return {
          text: `${nameOf(problem.line)}: there is no price for it yet.`,
          line: problem.line,
          fixes: [],
        }
      case 'extra-gone': {
        const name = store.extra.get(problem.extra)?.name ?? 'An option'
        const quantity = cart.lines[problem.line]?.quantity ?? ZERO
        return {
          text: `${nameOf(problem.line)}: ${name} is no longer available with it.`,
          line: problem.line,
          fixes: [
            { line: problem.line, quantity, label: `Continue without ${name}`, without: problem.extra },
          ],
        }
      }
      case 'quantity':
        return {
          text: `${nameOf(problem.line)}: ${limitSentence(problem.problem)}`,
          line: problem.line,
          fixes: fixesFor(cart, problem.line, problem.nearest),
        }
      case 'together':
        return togetherView(cart, problem, nameOf)
      case 'place':
        return { text: PLACE_SENTENCES[problem.part], line: null, fixes: [] }
      case 'contract-minimum':
        return {
          text: `Your contract asks for orders of ${formatMoney(problem.limit, problem.currency, cart.digits)} or more without tax; this one has ${formatMoney(problem.has, problem.currency, cart.digits)}.`,
          line: null,
          fixes: [],
        }
    }
  })
}

/** What the checkout asks for, beside the field. */
export const PLACE_SENTENCES: Readonly<Record<PlacePart, string>> = {
  state: 'Taxes here depend on the state. Choose one.',
  postcode: 'Taxes here depend on the postcode. Enter it.',
  city: 'Taxes here depend on the city. Enter it.',
}

function limitSentence(problem: LimitProblem): string {
  switch (problem.code) {
    case 'contradictory':
      return 'no quantity of it can be ordered at present. Ask us.'
    case 'below-minimum':
      return `the least is ${problem.limit}.`
    case 'above-maximum':
      return `the most is ${problem.limit}.`
    case 'not-a-multiple':
      return `it is sold in multiples of ${problem.limit}.`
    case 'not-whole':
      return 'it is sold in whole pieces.'
    case 'not-allowed':
      return 'it is not sold in this quantity.'
  }
}

/** Several lines of one variant are one quantity: what is missing or too much is put on the line that was named. */
function fixesFor(cart: Cart, line: number, { below, above }: Nearest): CartProblemView['fixes'] {
  const wanted = cart.lines[line]
  if (!wanted) return []
  const others = sum(
    cart.lines
      .filter((other, at) => at !== line && other.variant === wanted.variant)
      .map(({ quantity }) => quantity),
  )
  return [...new Set([below, above])].flatMap((near) => {
    if (near === null) return []
    const quantity = subtract(near, others)
    return compare(quantity, ZERO) > 0 ? [{ line, quantity, label: `Make it ${near}` }] : []
  })
}

function togetherView(
  cart: Cart,
  problem: Extract<CartProblem, { kind: 'together' }>,
  nameOf: (line: number) => string,
): CartProblemView {
  const { rule, lines, measure, has, before, nearest } = problem
  const isWhole = rule.counting === 'together' && isForEverything(rule)
  const counted = isWhole ? 'the whole order' : `${[...new Set(lines.map(nameOf))].join(', ')} together`
  const limit = 'limit' in problem.problem ? problem.problem.limit : null
  const told = (value: Decimal) =>
    measure === 'value'
      ? `${formatMoney(value, cart.currency, cart.digits)} without tax`
      : measure === 'weight'
        ? `${value} kg`
        : value
  const past = before === ZERO ? '' : `, ${before} of them ordered in the last ${rule.days} days`
  const words =
    problem.problem.code === 'not-a-multiple'
      ? `in multiples of ${limit}`
      : problem.problem.code === 'below-minimum'
        ? `${limit === null ? 'more' : told(limit)} or more`
        : `${limit === null ? 'less' : told(limit)} or less${rule.days === null ? '' : ` in ${rule.days} days`}`
  const only = lines.length === 1 ? (lines[0] as number) : null
  return {
    text: `${rule.name}: ${counted} ${words}; this comes to ${told(has)}${past}.`,
    line: only,
    fixes: only !== null && measure === 'quantity' ? fixesFor(cart, only, nearest) : [],
  }
}
