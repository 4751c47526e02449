import type { StockLevels } from '../../catalogue/stock'
import { add, compare, type Decimal, subtract, ZERO } from '../../decimal/decimal'
import { type Fraction, multiplyFractions, toFraction } from '../../decimal/fraction'
import { roundToDigits } from '../../decimal/rounding'
import { factorBetween, inBasis, storeBasis } from '../../engine/amounts/basis'
import type { PreparedStore } from '../../engine/context/prepared-store'
import type { PricingContext } from '../../engine/context/pricing-context'
import { fromUnits } from '../../engine/lists/price-step'
import { PHASES } from '../../promotions/phases'
import type { Promotion, PromotionKind } from '../../promotions/promotion'
import { circumstancesAt, matchRule } from '../../rules/match-rule'
import { compareRules } from '../../rules/rule'
import type { Discount } from '../cart'
import type { PricedLine } from '../price-lines'
import { afterTaking, type Basket, type Segment } from './basket'
import { findUnmet } from './conditions'
import { priceGift } from './gifts'
import { Goods } from './goods'
import type { AppliedPromotion, AppliedSet, IdlePromotion, WhyNot } from './outcome'
import { type PromotionFacts, usesLeftOf } from '../../promotions/facts'
import { planGoods } from './plan'
import type { Gift, Plan, Turn } from './planned'
import { spread } from './spread'

/** A line as it is to be paid: its total is what promotions leave of it. */
interface PromotedLine {
  /** The line before promotions. */
  readonly priced: PricedLine
  /** What is left to pay for it; `null` without a price. */
  readonly total: Decimal | null
  readonly discounts: readonly Discount[]
  /** The promotion that gives it for nothing, by id; `null` for a line that was put in. */
  readonly gift: string | null
}

/** The second stage: the lines with what promotions took off, gifts behind them, and how every promotion stood. */
export interface Promoted {
  readonly lines: readonly PromotedLine[]
  readonly applied: readonly AppliedPromotion[]
  readonly idle: readonly IdlePromotion[]
  /** Those on delivery and payment that hold, in their order: their amounts are known when goods are. */
  readonly onCharges: readonly Promotion[]
}

/**
 * What promotions take off the goods of a cart.
 *
 * Holds   lines add up to the whole; no unit is in two promotions that close it; nothing is saved that is not there.
 */
export function promote(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  priced: readonly PricedLine[],
  known: { readonly facts: PromotionFacts; readonly stock: StockLevels },
  digits: number,
): Promoted {
  const run = new Run(prepared, pricingContext, priced, known.facts, known.stock, digits)
  for (const kinds of PHASES) run.consider(kinds)
  return run.result()
}

/** The lines as they are, where promotions are not asked for. */
export function withoutPromotions(priced: readonly PricedLine[]): Promoted {
  const lines = priced.map((line) => ({ priced: line, total: line.total, discounts: [], gift: null }))
  return { lines, applied: [], idle: [], onCharges: [] }
}

interface Candidate {
  readonly promotion: Promotion
  readonly usesLeft: number
}

/** A promotion with what it would do now. */
interface Ready extends Candidate {
  readonly plan: Plan
  readonly gifts: readonly PricedLine[]
  readonly shares: readonly Decimal[]
  readonly exacts: readonly Fraction[]
  readonly saving: Decimal
  readonly capped: Decimal
}

class Run {
  private readonly goods: Goods
  private readonly candidates: readonly Candidate[]
  private readonly idle = new Map<string, WhyNot>()
  private readonly applied: AppliedPromotion[] = []
  private readonly gifts: { readonly line: PricedLine; readonly promotion: string }[] = []
  private readonly discounts: Map<number, Discount[]> = new Map()
  /** What is still to be paid on each line, in the basis of the store. */
  private readonly leftOn: Decimal[]
  private basket: Basket

  constructor(
    private readonly prepared: PreparedStore,
    private readonly pricingContext: PricingContext,
    private readonly priced: readonly PricedLine[],
    private readonly facts: PromotionFacts,
    private readonly stock: StockLevels,
    private readonly digits: number,
  ) {
    const amounts = priced.map((line) =>
      line.total === null || !line.access.buy || line.wanted.settled
        ? null
        : inBasis(
            prepared,
            pricingContext.currencyView,
            line.number,
            { amount: line.total, basis: line.basis },
            storeBasis(prepared),
          ),
    )
    this.goods = new Goods(prepared, pricingContext, priced, amounts, digits)
    this.leftOn = amounts.map((amount) => (amount ? roundToDigits(amount, digits, 'half-up') : ZERO))
    this.basket = amounts.flatMap((left, line): readonly Segment[] => {
      const { quantity } = priced[line] as PricedLine
      return left && this.goods.takesPart(line) ? [{ line, quantity, left, takenBy: [] }] : []
    })
    this.candidates = this.findCandidates()
  }

  private findCandidates(): readonly Candidate[] {
    const circumstances = circumstancesAt(this.pricingContext)
    return this.prepared.terms.promotions.flatMap(({ rule, schedule }): readonly Candidate[] => {
      const verdict = matchRule(rule, schedule, circumstances)
      const left = usesLeftOf(rule, this.facts)
      const because: WhyNot | null = !verdict.holds
        ? verdict.because
        : left.count < 1 && left.by
          ? { code: 'used-up', limit: left.by }
          : findUnmet(rule, this.goods, this.facts, this.pricingContext.at)
      const waits = because ? null : this.waitsForChoice(rule)
      if (!because && !waits) return [{ promotion: rule, usesLeft: left.count }]
      this.idle.set(rule.id, because ?? (waits as WhyNot))
      return []
    })
  }

  /** Offers on delivery and payment are taken without knowing what they come to; others are proposed with it. */
  private waitsForChoice({ id, isOffer, value }: Promotion): WhyNot | null {
    const choice = this.facts.choices[id]
    if (!isOffer || choice === 'taken' || (value.kind !== 'delivery' && value.kind !== 'payment')) return null
    return { code: choice === 'left' ? 'declined' : 'offered', saving: ZERO }
  }

  /** Applies promotions of some kinds in the order of their priority; of equal priority the one that saves most first. */
  consider(kinds: readonly PromotionKind[]): void {
    const own = this.candidates.filter(({ promotion }) => kinds.includes(promotion.value.kind))
    const ranks = [...new Set(own.map(({ promotion }) => promotion.rank))].sort((one, other) => one - other)
    for (const rank of ranks) {
      let open = own.filter(({ promotion }) => promotion.rank === rank)
      // What the others would do only changes where the best took something.
      const known = new Map<string, Ready | WhyNot>()
      while (open.length > 0) {
        const best = this.bestOf(open, known)
        if (!best) break
        const lines = new Set(best.plan.takes.map(({ segment }) => (this.basket[segment] as Segment).line))
        this.apply(best)
        open = open.filter(({ promotion }) => promotion.id !== best.promotion.id)
        for (const { promotion } of open) {
          const held = this.goods.of(promotion)
          if ([...lines].some((line) => held[line])) known.delete(promotion.id)
        }
      }
    }
  }

  /** Of several the one that saves most, then the first by its code; those that save nothing say why. */
  private bestOf(open: readonly Candidate[], known: Map<string, Ready | WhyNot>): Ready | null {
    let best: Ready | null = null
    for (const candidate of open) {
      const ready = known.get(candidate.promotion.id) ?? this.ready(candidate)
      known.set(candidate.promotion.id, ready)
      if ('code' in ready) {
        this.idle.set(candidate.promotion.id, ready)
        continue
      }
      this.idle.delete(candidate.promotion.id)
      const order = best === null ? 1 : compare(ready.saving, best.saving)
      if (best === null || order > 0 || (order === 0 && ready.promotion.code < best.promotion.code))
        best = ready
    }
    return best
  }

  private ready(candidate: Candidate): Ready | WhyNot {
    const { promotion } = candidate
    const planned = planGoods(this.turnOf(promotion, candidate.usesLeft))
    if (!planned.ok) return planned.because
    const { plan } = planned
    const gifts = plan.gifts.map((gift) =>
      priceGift(
        this.prepared,
        this.pricingContext,
        gift,
        { bought: this.priced, stock: this.stock },
        this.digits,
      ),
    )
    const missing = gifts.findIndex((gift) => gift === null)
    if (missing >= 0) return { code: 'no-gift', variant: (plan.gifts[missing] as Gift).variant }
    const given = gifts as readonly PricedLine[]
    const { shares, exacts, saving, capped } = spread(promotion, plan, this.basket, this.goods, this.leftOn)
    const whole = given.reduce((sum, line) => add(sum, this.inStoreBasis(line)), saving)
    if (whole === ZERO) return capped === ZERO ? { code: 'saves-nothing' } : { code: 'floor' }
    if (promotion.isOffer) {
      const choice = this.facts.choices[promotion.id]
      if (choice !== 'taken') return { code: choice === 'left' ? 'declined' : 'offered', saving: whole }
    }
    return { ...candidate, plan, gifts: given, shares, exacts, saving: whole, capped }
  }

  private turnOf(promotion: Promotion, usesLeft: number): Turn {
    return { promotion, basket: this.basket, goods: this.goods, usesLeft }
  }

  private inStoreBasis({ total, basis, number }: PricedLine): Decimal {
    const { currencyView } = this.pricingContext
    const amount = { amount: total ?? ZERO, basis }
    return roundToDigits(
      inBasis(this.prepared, currencyView, number, amount, storeBasis(this.prepared)),
      this.digits,
      'half-up',
    )
  }

  private apply({ promotion, usesLeft, plan, gifts, shares, exacts, saving, capped }: Ready): void {
    const byLine = new Map<number, { quantity: number; saving: Decimal }>()
    plan.takes.forEach(({ segment, quantity }, at) => {
      const { line } = this.basket[segment] as Segment
      const known = byLine.get(line)
      const share = shares[at] ?? ZERO
      byLine.set(line, {
        quantity: (known?.quantity ?? 0) + quantity,
        saving: known ? add(known.saving, share) : share,
      })
    })
    const lines = [...byLine]
      .sort(([one], [other]) => one - other)
      .map(([line, taken]) => ({ line, quantity: fromUnits(taken.quantity, 3), saving: taken.saving }))
    for (const { line, quantity, saving: share } of lines) {
      this.leftOn[line] = subtract(this.leftOn[line] as Decimal, share)
      if (share === ZERO) continue
      const discount = { promotion: promotion.id, quantity, saving: this.inLineBasis(line, share) }
      this.discounts.set(line, [...(this.discounts.get(line) ?? []), discount])
    }
    const sets = plan.sets.map((set) => this.toAppliedSet(set))
    this.basket = afterTaking(this.basket, promotion, plan.takes, exacts)
    const first = this.priced.length + this.gifts.length
    this.gifts.push(...gifts.map((line) => ({ line, promotion: promotion.id })))
    this.applied.push({
      promotion: promotion.id,
      saving,
      uses: plan.uses,
      lines: [
        ...lines,
        ...gifts.map((line, at) => ({
          line: first + at,
          quantity: line.wanted.quantity,
          saving: this.inStoreBasis(line),
        })),
      ],
      sets,
      gifts: gifts.map(({ wanted }) => ({ variant: wanted.variant, quantity: wanted.quantity })),
      capped: capped === ZERO ? null : capped,
      missing: this.missingFor(promotion, usesLeft - plan.uses),
    })
    this.idle.delete(promotion.id)
  }

  /** How many more units one more set would take, of which some are there already. */
  private missingFor(promotion: Promotion, usesLeft: number): Decimal | null {
    if (promotion.value.kind !== 'set' || usesLeft < 1) return null
    const again = planGoods(this.turnOf(promotion, usesLeft))
    return !again.ok && again.because.code === 'too-few' ? again.because.missing : null
  }

  private toAppliedSet({ times, units, amount, saving }: Plan['sets'][number]): AppliedSet {
    return {
      times,
      units: units.map(({ segment, part, count }) => ({
        line: (this.basket[segment] as Segment).line,
        part,
        count,
      })),
      amount: roundToDigits(amount, this.digits, 'half-up'),
      saving: roundToDigits(saving, this.digits, 'half-up'),
    }
  }

  /** A saving in the basis the line itself is in. */
  private inLineBasis(line: number, saving: Decimal): Decimal {
    const { number, basis } = this.priced[line] as PricedLine
    const { currencyView } = this.pricingContext
    const factor = factorBetween(this.prepared, currencyView, number, storeBasis(this.prepared), basis)
    if (!factor) return saving
    return roundToDigits(multiplyFractions(toFraction(saving), factor), this.digits, 'half-up')
  }

  result(): Promoted {
    const own = this.priced.map((line, at): PromotedLine => {
      const discounts = this.discounts.get(at) ?? []
      const left = discounts.reduce<Decimal | null>(
        (total, { saving }) => total && subtract(total, saving),
        line.total,
      )
      return { priced: line, total: left && notBelowZero(left), discounts, gift: null }
    })
    const gifts = this.gifts.map(({ line, promotion }): PromotedLine => ({
      priced: line,
      total: ZERO,
      discounts: [{ promotion, quantity: line.wanted.quantity, saving: line.total ?? ZERO }],
      gift: promotion,
    }))
    return {
      lines: [...own, ...gifts],
      applied: this.applied,
      idle: [...this.idle].map(([promotion, because]) => ({ promotion, because })),
      onCharges: this.candidates
        .map(({ promotion }) => promotion)
        .filter(({ value }) => value.kind === 'delivery' || value.kind === 'payment')
        .sort(compareRules),
    }
  }
}

/** Where a line has another basis than the store, bringing a saving there and back may be off by a smallest unit. */
function notBelowZero(total: Decimal): Decimal {
  return compare(total, ZERO) < 0 ? ZERO : total
}
