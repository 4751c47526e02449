import { findMinorDigits } from '@/core/currency/iso-4217'
import type { RoundingRule } from '@/core/decimal/rounding'
import type { Question } from '@/core/engine/context/buyer-context'
import type { Adjustment } from '@/core/price/adjustment'
import type { Contract } from '@/core/price/contract'
import type { PriceLine, PriceList } from '@/core/price/lines/price-list'
import type { Breaks, PriceMethod, PriceReference } from '@/core/price/lines/price-method'
import type { Store } from '@/core/store/store'
import {
  groupsOf,
  inWhat,
  inWhen,
  inWhere,
  inWho,
  type Item,
  reach,
  regionsHolding,
} from './reference-matching'
import { most, Rational } from './rational'
import { chargedTaxes, grossFactor } from './reference-tax'

/**
 * docs/model.md, written down the slow and obvious way: for one question look at every line of every list, sort
 * what applies, take the first. It shares no arithmetic, matching or ordering with the engine it judges.
 */
export interface ReferencePrice {
  readonly currency: string
  /** Without trailing zeros; `null` without a price. */
  readonly unit: string | null
  readonly basis: 'net' | 'gross'
  readonly list: string | null
  /** `null` for a default line or the base price. */
  readonly line: string | null
  readonly contract: string | null
  /** Each candidate that lost, as `list/line reason price`, sorted. */
  readonly losers: readonly string[]
  /** What happened to the price after the list: `shown`, `public`, `floor`. */
  readonly after: readonly string[]
  readonly offered: boolean
  readonly digits: number
  /** One unit before it is rounded to be shown, where graduated brackets and nothing that rounds by a rule made it. */
  readonly exact: Rational | null
  /** The same for what is counted together into the same brackets. */
  readonly together: string | null
}

type Amount = Rational | null

interface Candidate {
  readonly entry: Entry
  readonly line: PriceLine | null
  readonly specificity: number
  readonly price: Amount
  readonly failure: string | null
  /** Of graduated brackets, exactly. */
  readonly average?: Rational
  readonly together?: string
}

interface Entry {
  readonly list: PriceList
  readonly rung: number
  readonly rank: readonly number[]
  readonly contract: Contract | null
  readonly start: string
  readonly isForeign: boolean
}

const RUNGS = ['contract', 'account', 'group', 'signed-in', 'everyone']

export function referencePrice(
  store: Store,
  question: Question,
  extra: string | null = null,
): ReferencePrice {
  return new Reference(store, question, extra).answer()
}

class Reference {
  private readonly settings
  private readonly item: Item
  readonly currency: string
  private readonly contracts: readonly Contract[]

  constructor(
    private readonly store: Store,
    private readonly question: Question,
    private readonly extra: string | null,
  ) {
    const variant = store.variant.get(question.variant)!
    this.settings = store.settings.get('settings')!
    this.item =
      extra === null
        ? { kind: 'variant', variant, product: store.product.get(variant.product)! }
        : { kind: 'extra', extra }
    this.contracts = this.bound()
      .filter((contract) => this.standing(contract) === 'in-force')
      .sort((a, b) => a.rank - b.rank || (a.code < b.code ? -1 : 1))
    this.currency = this.chooseCurrency()
  }

  answer(): ReferencePrice {
    const entries = this.entries()
    const all = entries.flatMap((entry) => this.candidates(entry, this.currency))
    const applying = entries
      .flatMap((entry) => all.filter((each) => each.entry === entry && each.price !== null).slice(0, 1))
      .sort(byLadder)
    const policy = this.contracts.find((contract) => contract.policy !== null)?.policy ?? this.settings.policy
    const worth = ({ price, entry }: Candidate) => this.inStoreBasis(price!, this.basisOf(entry.list))
    const cheapest = (best: Candidate, each: Candidate) => (worth(each).lt(worth(best)) ? each : best)
    const winner =
      policy === 'lowest' && applying.length > 0
        ? applying.reduce((best, each) => cheapest(best, each))
        : applying[0]

    const after: string[] = []
    let exact = winner?.average ?? null
    let together = winner?.together ?? null
    const isProtected = winner?.entry.contract?.isProtected ?? false
    let unit = winner ? winner.price : this.reference('base', this.currency, this.rule(), true)
    let basis = winner ? this.basisOf(winner.entry.list) : this.settings.taxBasis
    if (unit && !isProtected) {
      const moved = this.adjusted(unit, 'shown', this.currency, basis)
      if (this.holdingAdjustments('shown').length > 0) after.push('shown')
      exact = exact && this.moved(exact, basis)
      unit = moved
    }
    if (unit && this.settings.neverAbovePublic && this.question.buyer.kind !== 'guest') {
      // A guest in the same place: where nothing is said of it, at the account's own address, city and all.
      const place = this.question.deliverTo ?? this.ownAddress()
      const guest = referencePrice(
        this.store,
        { ...this.question, buyer: { kind: 'guest' }, currency: this.currency, deliverTo: place },
        this.extra,
      )
      if (
        guest.unit !== null &&
        this.inStoreBasis(Rational.of(guest.unit), guest.basis).lt(this.inStoreBasis(unit, basis))
      ) {
        unit = Rational.of(guest.unit)
        basis = guest.basis
        exact = guest.exact
        together = guest.together
        after.push('public')
      }
    }
    const floor = this.floor()
    if (unit && floor && this.inStoreBasis(unit, basis).lt(floor)) {
      unit = floor
      exact = null
      basis = this.settings.taxBasis
      after.push('floor')
    }
    return {
      currency: this.currency,
      unit: unit?.toText() ?? null,
      basis,
      list: winner?.entry.list.id ?? null,
      line: winner?.line?.id ?? null,
      contract: winner?.entry.contract?.id ?? null,
      losers: this.losers(entries, all, winner, policy).sort(),
      after: unit ? after : [],
      offered: this.offered(entries),
      digits: this.digits(this.currency),
      exact,
      together: exact && together,
    }
  }

  // --- who, where and when -------------------------------------------------------------------------------

  private home(): string {
    const { buyer } = this.question
    const account = buyer.kind === 'account' ? this.store.account.get(buyer.account) : undefined
    return account?.country ?? this.settings.country
  }

  private now(schedule: Parameters<typeof inWhen>[0]): boolean {
    return inWhen(schedule, this.settings.timeZone, this.question.at)
  }

  private bound(): readonly Contract[] {
    const { buyer } = this.question
    const groups = groupsOf(this.store, this.question)
    return [...this.store.contract.values()].filter(
      (contract) =>
        (buyer.kind === 'account' && contract.accounts.includes(buyer.account)) ||
        contract.groups.some((id) => groups.includes(id)),
    )
  }

  private standing(contract: Contract): string {
    if (contract.state !== 'active') return contract.state
    const open = { months: [], weekdays: [], hours: null, overrides: {} }
    if (!this.now({ ...open, from: contract.from, to: null })) return 'not-yet'
    return this.now({ ...open, from: null, to: contract.to }) ? 'in-force' : 'over'
  }

  private chooseCurrency(): string {
    const { buyer, currency } = this.question
    const account = buyer.kind === 'account' ? this.store.account.get(buyer.account) : undefined
    const region = this.store.region.get(regionsHolding(this.store, this.question)[0] ?? '')
    const candidates = [
      currency,
      this.contracts.find((each) => each.currency !== null)?.currency,
      account?.currency,
      region?.currency,
    ]
    const known = (code: string) =>
      code === this.settings.currency || this.store.currency.get(code)?.status === 'active'
    return candidates.find((code) => code && known(code)) ?? this.settings.currency
  }

  private entries(): readonly Entry[] {
    const { store } = this
    return [...store['price-list'].values()]
      .filter(
        (list) =>
          list.state === 'on' &&
          list.status === 'active' &&
          inWhere(store, list.place, this.question) &&
          this.now(list.schedule),
      )
      .flatMap((list): Entry[] => {
        const isForeign = list.currency !== this.currency
        const contract = this.contracts.find(({ lists }) => lists.includes(list.id))
        if (contract) {
          const rank = [contract.rank, contract.lists.indexOf(list.id)]
          return [{ list, rung: 0, rank, contract, start: contract.from ?? '', isForeign }]
        }
        const rung = this.rung(list)
        if (rung === null) return []
        return [
          { list, rung, rank: [list.rank, 0], contract: null, start: list.schedule.from ?? '', isForeign },
        ]
      })
  }

  private rung(list: PriceList): number | null {
    const by = inWho(this.store, list.audience, this.question)
    if (!by) return null
    const names: Record<string, string> = {
      account: 'account',
      email: 'account',
      tag: 'group',
      group: 'group',
      trade: 'group',
      'signed-in': 'signed-in',
      guests: 'signed-in',
    }
    return RUNGS.indexOf(names[by.kind] ?? 'everyone')
  }

  // --- lines ---------------------------------------------------------------------------------------------

  private candidates(entry: Entry, currency: string): readonly Candidate[] {
    const { list } = entry
    const isExtra = this.item.kind === 'extra'
    if (!isExtra && inWhat(this.store, list.scope, this.item) === null) return []
    const found: Candidate[] = []
    for (const line of linesOf(this.store, list.id)) {
      const specificity = inWhat(this.store, line.scope, this.item)
      if (specificity !== null) found.push(this.candidate(entry, line, line, specificity, currency))
    }
    found.sort(
      (a, b) =>
        b.specificity - a.specificity ||
        a.line!.position - b.line!.position ||
        (a.line!.id < b.line!.id ? -1 : 1),
    )
    if (list.defaultLine && !isExtra) found.push(this.candidate(entry, null, list.defaultLine, -1, currency))
    return found
  }

  private candidate(
    entry: Entry,
    line: PriceLine | null,
    breaks: Breaks,
    specificity: number,
    currency: string,
  ): Candidate {
    const lose = (failure: string): Candidate => ({ entry, line, specificity, price: null, failure })
    if (line?.schedule && !this.now(line.schedule)) return lose('line-not-now')
    const counted = this.counted(entry.list, line, breaks)
    const reached = breaks.breaks.filter(({ from }) => counted.gte(from))
    if (reached.length === 0) return lose('below-first-break')
    const rounding = line?.rounding ?? entry.list.rounding
    const priceOf = (method: PriceMethod) => this.methodPrice(entry, method, rounding, currency)
    const last = reached.at(-1)!
    if (breaks.pricing === 'all-units' || reached.length === 1) {
      const price = priceOf(last.method)
      return typeof price === 'string' ? lose(price) : { entry, line, specificity, price, failure: null }
    }
    let total = Rational.of(0)
    for (const [at, { method }] of reached.entries()) {
      const price = priceOf(method)
      if (typeof price === 'string') return lose(price)
      const first = (from: string) => most(Rational.of(from).minus(this.stepOfSale()), Rational.of(0))
      const start = at === 0 ? Rational.of(0) : first(reached[at]!.from)
      const next = reached[at + 1]
      const end = next ? first(next.from) : counted
      total = total.plus(end.minus(start).times(price))
    }
    const digits = this.digits(currency)
    const average = total.div(counted)
    const unit = atLeast(average.round(digits), minor(digits))
    const together = `${entry.list.id} ${line?.id} ${counted.toText()}`
    return { entry, line, specificity, price: unit, failure: null, average, together }
  }

  /** One piece, or nothing to speak of where goods are measured. */
  private stepOfSale(): number {
    return this.item.kind === 'variant' && ['kg', 'm', 'l'].includes(this.item.product.unit) ? 0 : 1
  }

  private counted(list: PriceList, line: PriceLine | null, { counting }: Breaks): Rational {
    const { question, store } = this
    const own = Rational.of(question.quantity)
    if (counting === 'variant' || this.item.kind === 'extra') return own
    const { product } = this.item
    return question.basket.reduce((total, other) => {
      const variant = store.variant.get(other.variant)!
      if (variant.id === question.variant) return total
      const item: Item = { kind: 'variant', variant, product: store.product.get(variant.product)! }
      const counts =
        counting === 'product'
          ? variant.product === product.id
          : inWhat(store, list.scope, item) !== null && (!line || inWhat(store, line.scope, item) !== null)
      return counts ? total.plus(other.quantity) : total
    }, own)
  }

  /** A price, or the reason there is none. */
  private methodPrice(
    entry: Entry,
    method: PriceMethod,
    rounding: RoundingRule | null,
    currency: string,
  ): Rational | string {
    const { list, contract } = entry
    const adjusts = !contract?.isProtected
    const home = list.currency
    if (method.kind === 'fixed') {
      const amount = Rational.of(method.amount)
      return home === currency
        ? amount
        : (this.convert(amount, home, currency, this.ruleFor(currency)) ?? 'no-rate')
    }
    const reference: PriceReference = 'reference' in method ? method.reference : { kind: 'cost' }
    const named = reference.kind === 'list' ? null : reference.kind
    if (home !== currency && method.kind !== 'amount' && named) {
      const own = this.ownReference(named, currency, adjusts)
      const price =
        own &&
        this.finish(
          applied(method, this.inBasis(own, this.settings.taxBasis, this.basisOf(list))),
          this.ruleFor(currency),
          currency,
        )
      if (price) return price
    }
    const source = named
      ? this.reference(named, home, this.currencyRule(home), adjusts)
      : this.listPrice((reference as { list: string }).list, home, entry)
    if (!source) return 'no-reference'
    const from = named
      ? this.settings.taxBasis
      : this.basisOf(this.store['price-list'].get((reference as { list: string }).list)!)
    const price = this.finish(applied(method, this.inBasis(source, from, this.basisOf(list))), rounding, home)
    if (!price) {
      const convertible = home === currency || this.convert(Rational.of(1), home, currency, null) !== null
      return convertible ? 'not-above-zero' : 'no-rate'
    }
    return home === currency
      ? price
      : (this.convert(price, home, currency, this.ruleFor(currency)) ?? 'no-rate')
  }

  /** Whose price a derived list starts from: by the currency's own rule, under the same adjustments. */
  private listPrice(id: string, currency: string, from: Entry): Amount {
    const list = this.store['price-list'].get(id)
    if (!list || list.state !== 'on' || list.status !== 'active' || !this.now(list.schedule)) return null
    const inner = new Reference(this.store, this.question, this.extra)
    inner.ruleOverride = currency
    const entry: Entry = { ...from, list }
    return inner.candidates(entry, currency).find(({ price }) => price !== null)?.price ?? null
  }

  /** Set while a list is read for another one: prices converted into this currency follow the currency's rule. */
  private ruleOverride: string | null = null

  // --- with and without tax -------------------------------------------------------------------------------

  private basisOf(list: PriceList): 'net' | 'gross' {
    return list.taxBasis ?? this.settings.taxBasis
  }

  /** By the taxes an ordinary buyer would pay at the place, or at home where the net is kept. */
  private inBasis(amount: Rational, from: 'net' | 'gross', to: 'net' | 'gross'): Rational {
    if (from === to) return amount
    const factor = grossFactor(
      chargedTaxes(this.store, {
        place: this.taxPlace(),
        taxClass:
          this.item.kind === 'variant'
            ? (this.item.variant.taxClass ?? this.item.product.taxClass ?? this.settings.taxClass)
            : this.settings.taxClass,
        isDelivery: false,
        at: this.question.at,
      }),
    )
    return to === 'gross' ? amount.times(factor) : amount.div(factor)
  }

  private inStoreBasis(amount: Rational, from: 'net' | 'gross'): Rational {
    return this.inBasis(amount, from, this.settings.taxBasis)
  }

  private taxPlace() {
    const { buyer, deliverTo } = this.question
    const { taxPlace, grossElsewhere, country } = this.settings
    if (grossElsewhere === 'keep-net' || taxPlace === 'store')
      return { country, state: '', postcode: '', city: '' }
    const isKnown = buyer.kind === 'account' && this.store.account.has(buyer.account)
    return taxPlace === 'billing' && isKnown ? this.ownAddress() : (deliverTo ?? this.ownAddress())
  }

  private ownAddress() {
    const { buyer } = this.question
    const account = buyer.kind === 'account' ? this.store.account.get(buyer.account) : undefined
    if (!account) return { country: this.settings.country, state: '', postcode: '', city: '' }
    const { country, state, postcode, city } = account
    return { country, state, postcode, city }
  }

  // --- amounts -------------------------------------------------------------------------------------------

  private digits(currency: string): number {
    if (currency === this.settings.currency) return this.settings.priceDigits
    return this.store.currency.get(currency)?.priceDigits ?? findMinorDigits(currency) ?? 2
  }

  private currencyRule(currency: string): RoundingRule | null {
    return this.store.currency.get(currency)?.rounding ?? null
  }

  private rule(): RoundingRule | null {
    const region = this.store.region.get(regionsHolding(this.store, this.question)[0] ?? '')
    return region && region.currency === this.currency && region.rounding
      ? region.rounding
      : this.currencyRule(this.currency)
  }

  private ruleFor(currency: string): RoundingRule | null {
    return this.ruleOverride !== null || currency !== this.currency
      ? this.currencyRule(currency)
      : this.rule()
  }

  private stored(field: 'base' | 'recommended' | 'cost' | 'floor', currency: string): Amount {
    const isHome = currency === this.settings.currency
    if (this.item.kind === 'extra') {
      const extra = this.store.extra.get(this.item.extra)!
      const text = isHome
        ? field === 'base'
          ? extra.basePrice
          : field === 'cost'
            ? extra.cost
            : null
        : field === 'base'
          ? (extra.ownPrices[currency] ?? null)
          : null
      return text === null ? null : Rational.of(text)
    }
    const name = (
      { base: 'basePrice', recommended: 'recommendedPrice', cost: 'cost', floor: 'floor' } as const
    )[field]
    const { variant, product } = this.item
    const text = isHome
      ? (variant[name] ?? product[name])
      : (variant.ownAmounts[currency]?.[name] ??
        (variant[name] === null ? (product.ownAmounts[currency]?.[name] ?? null) : null))
    return text === null ? null : Rational.of(text)
  }

  private ownReference(field: 'base' | 'recommended' | 'cost', currency: string, adjusts: boolean): Amount {
    const stored = this.stored(field, currency)
    if (!stored) return null
    return field === 'base' && adjusts
      ? this.adjusted(stored, 'base', currency, this.settings.taxBasis)
      : stored
  }

  private reference(
    field: 'base' | 'recommended' | 'cost',
    currency: string,
    rule: RoundingRule | null,
    adjusts: boolean,
  ): Amount {
    if (this.stored(field, currency)) return this.ownReference(field, currency, adjusts)
    if (currency === this.settings.currency) return null
    const home = this.ownReference(field, this.settings.currency, adjusts)
    return home && this.convert(home, this.settings.currency, currency, rule)
  }

  private holdingAdjustments(target: Adjustment['target']): readonly Adjustment[] {
    return [...this.store.adjustment.values()]
      .filter(
        (each) =>
          each.target === target &&
          each.state === 'on' &&
          each.status === 'active' &&
          inWho(this.store, each.audience, this.question) !== null &&
          inWhere(this.store, each.place, this.question) &&
          this.now(each.schedule) &&
          inWhat(this.store, each.scope, this.item) !== null,
      )
      .sort((a, b) => a.rank - b.rank || (a.code < b.code ? -1 : 1))
  }

  /** One that would leave nothing above zero is left out. */
  private adjusted(
    amount: Rational,
    target: Adjustment['target'],
    currency: string,
    basis: 'net' | 'gross',
  ): Amount {
    let exact = amount
    let rule: RoundingRule | null = null
    let moved = false
    for (const { method, rounding } of this.holdingAdjustments(target)) {
      let next: Rational
      if (method.kind === 'percent') next = exact.times(Rational.of(method.percent).plus(100)).div(100)
      else {
        const factor = this.factor(this.settings.currency, currency)
        const home = this.inBasis(Rational.of(method.amount), this.settings.taxBasis, basis)
        if (currency === this.settings.currency) next = exact.plus(home)
        else next = factor ? exact.plus(factor.times(home)) : exact
      }
      if (next.lte(0)) continue
      exact = next
      rule = rounding ?? rule
      moved = true
    }
    return moved ? this.finish(exact, rule, currency) : amount
  }

  /** Adjustments of the price shown on an exact one; `null` where one of them rounds by a rule. */
  private moved(exact: Rational, basis: 'net' | 'gross'): Rational | null {
    let value = exact
    let rounds = false
    for (const { method, rounding } of this.holdingAdjustments('shown')) {
      const factor = this.factor(this.settings.currency, this.currency)
      const rate = this.currency === this.settings.currency ? Rational.of(1) : (factor ?? Rational.of(0))
      const next =
        method.kind === 'percent'
          ? value.times(Rational.of(method.percent).plus(100)).div(100)
          : value.plus(rate.times(this.inBasis(Rational.of(method.amount), this.settings.taxBasis, basis)))
      if (next.lte(0)) continue
      value = next
      rounds ||= rounding !== null
    }
    return rounds ? null : value
  }

  private rate(per: string, currency: string): Amount {
    const rates = [...this.store['exchange-rate'].values()]
      .filter((each) => each.per === per && each.currency === currency)
      .filter((each) => Date.parse(each.from) <= this.question.at)
      .sort((a, b) => Date.parse(a.from) - Date.parse(b.from) || (a.id < b.id ? -1 : 1))
    const last = rates.at(-1)
    return last ? Rational.of(last.rate) : null
  }

  private factor(from: string, to: string, withFee = true): Amount {
    const base = this.settings.currency
    const fee = withFee
      ? Rational.of(this.store.currency.get(to)?.fee ?? 0)
          .plus(100)
          .div(100)
      : Rational.of(1)
    const direct = this.rate(from, to)
    if (direct) return direct.times(fee)
    const backwards = this.rate(to, from)
    if (backwards) return fee.div(backwards)
    const down = from === base ? Rational.of(1) : this.rate(base, from)
    const up = to === base ? Rational.of(1) : this.rate(base, to)
    return down && up ? up.times(fee).div(down) : null
  }

  private convert(amount: Rational, from: string, to: string, rule: RoundingRule | null): Amount {
    const factor = this.factor(from, to)
    return factor && this.finish(amount.times(factor), rule, to)
  }

  private floor(): Amount {
    const own = this.stored('floor', this.currency)
    if (own) return own
    const home = this.settings.currency
    const stored = this.currency === home ? null : this.stored('floor', home)
    const factor = stored && this.factor(home, this.currency, false)
    return stored && factor ? upTo(stored.times(factor), minor(this.digits(this.currency))) : null
  }

  private finish(exact: Rational, rule: RoundingRule | null, currency: string): Amount {
    if (exact.lte(0)) return null
    const digits = this.digits(currency)
    const once = rule === null ? exact : rounded(exact, rule)
    return atLeast(once.round(digits), minor(digits))
  }

  // --- losers --------------------------------------------------------------------------------------------

  private losers(
    entries: readonly Entry[],
    all: readonly Candidate[],
    winner: Candidate | undefined,
    policy: string,
  ): string[] {
    const lists = [...this.store['price-list'].values()]
    return lists.flatMap((list) => {
      const entry = entries.find((each) => each.list === list)
      const tell = (line: PriceLine | null | undefined, reason: string, price: Amount) =>
        `${list.id}/${line?.id ?? 'null'} ${reason} ${price?.toText() ?? 'null'}`
      if (!entry) {
        const stranger: Entry = {
          list,
          rung: 0,
          rank: [0, 0],
          contract: null,
          start: '',
          isForeign: false,
        }
        const best = this.candidates(stranger, this.currency).find(({ price }) => price !== null)
        return [tell(best?.line, this.whyOff(list), best?.price ?? null)]
      }
      const tried = all.filter((each) => each.entry === entry)
      const failed = tried.filter(({ price }) => price === null)
      const told = failed.map((each) => tell(each.line, each.failure!, null))
      if (winner?.entry === entry) {
        const beaten = tried.filter((each) => each.price !== null && each !== winner)
        return [
          ...told,
          ...beaten.map((each) =>
            tell(
              each.line,
              each.specificity < winner.specificity ? 'less-specific-line' : 'later-line',
              each.price,
            ),
          ),
        ]
      }
      const best = tried.find(({ price }) => price !== null)
      if (best && winner)
        return [
          tell(
            best.line,
            whyLater(best, winner, policy, (each) =>
              this.inStoreBasis(each.price!, this.basisOf(each.entry.list)),
            ),
            best.price,
          ),
        ]
      if (told.length > 0) return told
      if (list.scope.exclude.some((term) => reach(this.store, term, this.item) !== null))
        return [tell(null, 'excluded-item', null)]
      const isExtra = this.item.kind === 'extra'
      if (!isExtra && inWhat(this.store, list.scope, this.item) === null)
        return [tell(null, 'outside-scope', null)]
      const excluding = [...linesOf(this.store, list.id)]
        .sort((a, b) => a.position - b.position || (a.id < b.id ? -1 : 1))
        .find((line) => line.scope.exclude.some((term) => reach(this.store, term, this.item) !== null))
      if (isExtra && !excluding && !this.namesExtra(list)) return [tell(null, 'outside-scope', null)]
      return [tell(excluding, excluding ? 'excluded-item' : 'no-line', null)]
    })
  }

  /** A list that does not name an extra does not speak of it. */
  private namesExtra(list: PriceList): boolean {
    return linesOf(this.store, list.id).some((line) =>
      [...line.scope.include, ...line.scope.exclude].some(
        (term) => reach(this.store, term, this.item) !== null,
      ),
    )
  }

  private whyOff(list: PriceList): string {
    if (list.status === 'archived') return 'archived'
    if (list.state === 'off') return 'off'
    const bound = this.bound().filter(({ lists }) => lists.includes(list.id))
    const inForce = bound.some((contract) => this.standing(contract) === 'in-force')
    if (!inForce && !inWho(this.store, list.audience, this.question))
      return bound.length > 0 ? `contract` : 'not-for-buyer'
    return inWhere(this.store, list.place, this.question) ? 'not-now' : 'not-here'
  }

  private offered(entries: readonly Entry[]): boolean {
    const { item, store } = this
    const exclusiveLists = entries.filter(
      ({ list }) =>
        list.onlyListed &&
        (item.kind === 'extra' ? this.namesExtra(list) : inWhat(store, list.scope, item) !== null),
    )
    return (
      exclusiveLists.length === 0 ||
      exclusiveLists.some(({ list }) =>
        linesOf(store, list.id).some((line) => inWhat(store, line.scope, item) !== null),
      )
    )
  }
}

const LINES = new WeakMap<Store['price-line'], Map<string, PriceLine[]>>()

/** The lines of a list, gathered once a store so that a large one can be judged at all. */
function linesOf(store: Store, list: string): readonly PriceLine[] {
  let lines = LINES.get(store['price-line'])
  if (!lines) {
    lines = new Map()
    for (const line of store['price-line'].values()) {
      const known = lines.get(line.list)
      if (known) known.push(line)
      else lines.set(line.list, [line])
    }
    LINES.set(store['price-line'], lines)
  }
  return lines.get(list) ?? []
}

function byLadder(a: Candidate, b: Candidate): number {
  return (
    a.entry.rung - b.entry.rung ||
    a.entry.rank[0]! - b.entry.rank[0]! ||
    a.entry.rank[1]! - b.entry.rank[1]! ||
    Number(a.entry.isForeign) - Number(b.entry.isForeign) ||
    b.specificity - a.specificity ||
    (a.entry.start === b.entry.start ? 0 : a.entry.start > b.entry.start ? -1 : 1) ||
    (a.entry.list.code < b.entry.list.code ? -1 : 1)
  )
}

function whyLater(
  best: Candidate,
  winner: Candidate,
  policy: string,
  worth: (candidate: Candidate) => Rational,
): string {
  const [a, b] = [best.entry, winner.entry]
  if (policy === 'lowest' && worth(best).gt(worth(winner))) return 'not-lowest'
  if (a.rung !== b.rung) return 'lower-rung'
  if (a.rank[0] !== b.rank[0]) return a.rung === 0 ? 'later-contract' : 'later-rank'
  if (a.rank[1] !== b.rank[1]) return 'later-in-contract'
  if (a.isForeign !== b.isForeign) return 'foreign-currency'
  if (best.specificity !== winner.specificity) return 'less-specific-list'
  return a.start === b.start ? 'later-code' : 'earlier-start'
}

function applied(method: PriceMethod, source: Rational): Rational {
  switch (method.kind) {
    case 'fixed':
      return Rational.of(method.amount)
    case 'amount':
      return source.plus(method.amount)
    case 'percent':
    case 'markup':
      return source.times(Rational.of(method.percent).plus(100)).div(100)
    case 'margin':
      return source.times(100).div(Rational.of(100).minus(method.percent))
  }
}

function rounded(exact: Rational, rule: RoundingRule): Rational {
  if (rule.kind === 'step') {
    const step = Rational.of(rule.step)
    return atLeast(wholeSteps(exact.div(step), rule.mode).times(step), step)
  }
  // Every price of the grid near the value, and the best of them.
  const period = Rational.of(rule.period)
  const from = exact.div(period).floor().minus(1)
  const grid = [0, 1, 2, 3].flatMap((k) =>
    rule.endings.map((ending) => from.plus(k).times(period).plus(ending)),
  )
  const positive = grid.filter((price) => price.gt(0))
  const below = positive.filter((price) => price.lte(exact)).at(-1) ?? positive[0]!
  const above = positive.find((price) => price.gte(exact))!
  if (rule.mode === 'down') return below
  if (rule.mode === 'up') return above
  return below.lte(exact) && exact.minus(below).lt(above.minus(exact)) ? below : above
}

/** Prices are above zero, so that up and ceiling, and down and floor, are the same. */
function wholeSteps(steps: Rational, mode: Extract<RoundingRule, { kind: 'step' }>['mode']): Rational {
  const below = steps.floor()
  const rest = steps.minus(below)
  if (rest.eq(0) || mode === 'down' || mode === 'floor') return below
  const above = below.plus(1)
  if (mode === 'up' || mode === 'ceiling' || rest.gt('0.5')) return above
  if (rest.lt('0.5') || mode === 'half-down') return below
  return mode === 'half-up' || below.div(2).floor().times(2).eq(below) === false ? above : below
}

function upTo(exact: Rational, unit: Rational): Rational {
  return wholeSteps(exact.div(unit), 'up').times(unit)
}

function minor(digits: number): Rational {
  return Rational.ratio(1n, 10n ** BigInt(digits))
}

function atLeast(value: Rational, least: Rational): Rational {
  return value.lte(0) ? least : value
}
