/** An exact fraction, written for the slow evaluators and shared with nothing they judge. */
export class Rational {
  private constructor(
    readonly n: bigint,
    readonly d: bigint,
  ) {}

  static of(value: string | number | Rational): Rational {
    if (value instanceof Rational) return value
    const [whole = '', fraction = ''] = String(value).split('.')
    return Rational.ratio(BigInt(whole + fraction), 10n ** BigInt(fraction.length))
  }

  static ratio(n: bigint, d: bigint): Rational {
    const sign = d < 0n ? -1n : 1n
    let [a, b] = [n < 0n ? -n : n, d * sign]
    while (b !== 0n) [a, b] = [b, a % b]
    return new Rational((n * sign) / a, (d * sign) / a)
  }

  plus(other: string | number | Rational): Rational {
    const o = Rational.of(other)
    return Rational.ratio(this.n * o.d + o.n * this.d, this.d * o.d)
  }

  minus(other: string | number | Rational): Rational {
    const o = Rational.of(other)
    return Rational.ratio(this.n * o.d - o.n * this.d, this.d * o.d)
  }

  times(other: string | number | Rational): Rational {
    const o = Rational.of(other)
    return Rational.ratio(this.n * o.n, this.d * o.d)
  }

  div(other: string | number | Rational): Rational {
    const o = Rational.of(other)
    return Rational.ratio(this.n * o.d, this.d * o.n)
  }

  cmp(other: string | number | Rational): number {
    const { n } = this.minus(other)
    return n < 0n ? -1 : n > 0n ? 1 : 0
  }

  eq(other: string | number | Rational): boolean {
    return this.cmp(other) === 0
  }

  lt(other: string | number | Rational): boolean {
    return this.cmp(other) < 0
  }

  gte(other: string | number | Rational): boolean {
    return this.cmp(other) >= 0
  }

  lte(other: string | number | Rational): boolean {
    return this.cmp(other) <= 0
  }

  gt(other: string | number | Rational): boolean {
    return this.cmp(other) > 0
  }

  floor(): Rational {
    const q = this.n / this.d
    return new Rational(this.n < 0n && q * this.d !== this.n ? q - 1n : q, 1n)
  }

  /** To a whole number, away from zero where it stands half way. */
  halfUp(): Rational {
    if (this.n < 0n) return new Rational(0n, 1n).minus(new Rational(0n, 1n).minus(this).halfUp())
    return this.plus(Rational.ratio(1n, 2n)).floor()
  }

  /** To a number of digits behind the point, half up. */
  round(digits: number): Rational {
    const unit = 10n ** BigInt(digits)
    return this.times(new Rational(unit, 1n)).halfUp().div(new Rational(unit, 1n))
  }

  /** Decimal text without trailing zeros; a fraction without end throws. */
  toText(): string {
    let digits = 0
    let scaled = this.n
    while (scaled % this.d !== 0n) {
      scaled *= 10n
      digits += 1
      if (digits > 60) throw new Error('a fraction without end')
    }
    const whole = scaled / this.d
    const text = (whole < 0n ? -whole : whole).toString().padStart(digits + 1, '0')
    const point = text.length - digits
    const sign = whole < 0n ? '-' : ''
    return digits === 0 ? `${sign}${text}` : `${sign}${text.slice(0, point)}.${text.slice(point)}`
  }
}

export const most = (left: Rational, right: Rational) => (left.gte(right) ? left : right)
