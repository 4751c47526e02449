import type { Cart, CartProblem, LimitProblem } from '@/core/cart/cart'
import { compare, type Decimal, subtract, sum, ZERO } from '@/core/decimal/decimal'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { PlacePart } from '@/core/tax/find-levies'
import { isForEverything } from '@/core/limits/limit'
import type { Nearest } from '@/core/limits/nearest-quantities'
import { formatMoney } from '@/ui/format/amount'
import type { CartProblemView } from './cart-says'
import { notForSale } from './not-for-sale'

/** Each problem of a cart as a sentence, with the quantities that would correct it. */
export function problemViews({ store }: PreparedStore, cart: Cart): readonly CartProblemView[] {
  const nameOf = (line: number) => {
    const variant = store.variant.get(cart.lines[line]?.variant ?? '')
    return store.product.get(variant?.product ?? '')?.name ?? ''
  }
  const ofLine = (line: number, text: string, fixes: CartProblemView['fixes'] = []): CartProblemView => ({
    text,
    item: nameOf(line),
    line,
    fixes,
  })
  // What the address lacks is asked for where it is typed.
  const problems = cart.problems.filter(({ kind }) => kind !== 'place')
  return problems.map((problem): CartProblemView => {
    switch (problem.kind) {
      case 'access':
        return ofLine(problem.line, notForSale(problem.access) ?? '')
      case 'no-price':
        return ofLine(problem.line, 'There is no price for this yet.')
      case 'extra-gone': {
        const name = store.extra.get(problem.extra)?.name ?? 'An option'
        const quantity = cart.lines[problem.line]?.quantity ?? ZERO
        return ofLine(problem.line, `${name} is no longer available with it.`, [
          { line: problem.line, quantity, label: `Continue without ${name}`, without: problem.extra },
        ])
      }
      case 'quantity': {
        const { line, problem: wrong, source, nearest } = problem
        const message = source?.kind === 'rule' ? store.limit.get(source.rule)?.message : ''
        const has = quantityOf(cart, line)
        return ofLine(
          line,
          `${message || limitSentence(wrong)} You have ${has}.`,
          fixesFor(cart, line, nearest),
        )
      }
      case 'stock': {
        const { line, available, nearest } = problem
        const left = available === ZERO ? 'None are left.' : `Only ${available} are left.`
        return ofLine(line, `${left} You have ${quantityOf(cart, line)}.`, fixesFor(cart, line, nearest))
      }
      case 'together':
        return togetherView(cart, problem, nameOf)
      case 'place':
        return { text: PLACE_SENTENCES[problem.part], item: '', line: null, fixes: [] }
      case 'contract-minimum':
        return {
          text: `By your contract the smallest order is ${formatMoney(problem.limit, problem.currency, cart.digits)} without tax. This one comes to ${formatMoney(problem.has, problem.currency, cart.digits)}.`,
          item: '',
          line: null,
          fixes: [],
        }
    }
  })
}

/** Of everything in the cart that is the same as a line. */
function quantityOf(cart: Cart, line: number): Decimal {
  const wanted = cart.lines[line]
  return sum(cart.lines.filter(({ variant }) => variant === wanted?.variant).map(({ quantity }) => quantity))
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
      return 'No quantity of this can be ordered at present. Please ask us.'
    case 'below-minimum':
      return `Minimum quantity is ${problem.limit}.`
    case 'above-maximum':
      return `Maximum quantity is ${problem.limit}.`
    case 'not-a-multiple':
      return `Sold in multiples of ${problem.limit}.`
    case 'not-whole':
      return 'Sold in whole pieces.'
    case 'not-allowed':
      return 'Not sold in this quantity.'
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
    return compare(quantity, ZERO) > 0 ? [{ line, quantity, label: `Change to ${near}` }] : []
  })
}

function togetherView(
  cart: Cart,
  problem: Extract<CartProblem, { kind: 'together' }>,
  nameOf: (line: number) => string,
): CartProblemView {
  const { rule, lines, measure, has, before, nearest } = problem
  const isWhole = rule.counting === 'together' && isForEverything(rule)
  const counted = isWhole ? 'The whole order' : [...new Set(lines.map(nameOf))].join(' and ')
  const limit = 'limit' in problem.problem ? problem.problem.limit : null
  const inWords = (value: Decimal) =>
    measure === 'value'
      ? `${formatMoney(value, cart.currency, cart.digits)} without tax`
      : measure === 'weight'
        ? `${value} kg`
        : value
  const period = rule.days === null ? '' : ` in ${rule.days} days`
  const words =
    problem.problem.code === 'not-a-multiple'
      ? `must come to a multiple of ${limit}`
      : problem.problem.code === 'below-minimum'
        ? `must come to at least ${limit === null ? 'more' : inWords(limit)}`
        : `may come to at most ${limit === null ? 'less' : inWords(limit)}${period}`
  const past = before === ZERO ? '' : `, ${before} of them ordered in the last ${rule.days} days`
  // What the whole order must come to is no fault of its only line.
  const only = !isWhole && lines.length === 1 ? (lines[0] as number) : null
  return {
    text: `${rule.message || `${counted} ${words}.`} This comes to ${inWords(has)}${past}.`,
    item: only === null ? '' : nameOf(only),
    line: only,
    fixes: only !== null && measure === 'quantity' ? fixesFor(cart, only, nearest) : [],
  }
}
