import { type Decimal, isPositive, parseDecimal } from '../decimal/decimal'

/** When something is to be paid, as terms of payment say it. */
export interface PaymentTerms {
  /** Days after the invoice; `null` where that is not said. */
  readonly net: number | null
  /** A discount for who pays early. */
  readonly discount: {
    readonly percent: Decimal
    readonly days: number
    /** Counted from the invoice, from the end of its month, or from when the goods came. */
    readonly from: 'invoice' | 'end-of-month' | 'receipt'
  } | null
}

const NET = /(?:^|[\s,;])(?:n\/(\d{1,3})|net (\d{1,3})|(\d{1,3}) days(?: net)?)(?=$|[\s,;.])/i
const DISCOUNT = /(?:^|\s)(\d{1,2}(?:\.\d{1,2})?)\/(\d{1,3})(?:\s+(EOM|ROG))?(?=$|[\s,;.])/i

/** Reads terms as they are written: "45 days net", "2/10 n/30", "2/10 EOM". Errors  `null` for words that say no day. */
export function readTerms(text: string): PaymentTerms | null {
  const early = DISCOUNT.exec(text)
  // "n/30" would be read as a discount without its sign.
  const net = NET.exec(early ? text.replace(early[0], ' ') : text)
  if (!early && !net) return null
  const days = net ? Number(net[1] ?? net[2] ?? net[3]) : null
  const percent = early ? parseDecimal(early[1] as string) : null
  const mark = early?.[3]?.toUpperCase()
  return {
    net: days,
    discount:
      early && percent && isPositive(percent)
        ? {
            percent,
            days: Number(early[2]),
            from: mark === 'EOM' ? 'end-of-month' : mark === 'ROG' ? 'receipt' : 'invoice',
          }
        : null,
  }
}

/** An invoice of the 26th or later is one of the next month, for terms that count from the end of one. */
const LATE_IN_MONTH = 26
const DAY = 86_400_000

/**
 * The last days to pay, and to pay with the discount. Days are `YYYY-MM-DD`; `received` is when the goods came.
 *
 * Errors  a day is `null` where the terms do not say it, or say it from the receipt of goods that is not known.
 * Source  common terms of trade as textbooks give them: n/30, EOM and ROG dating (from memory).
 */
export function lastDays(
  { net, discount }: PaymentTerms,
  invoiced: string,
  received: string | null = null,
): { readonly due: string | null; readonly discounted: string | null } {
  return {
    due: net === null ? null : plusDays(invoiced, net),
    discounted: discount && discountedUntil(discount, invoiced, received),
  }
}

function discountedUntil(
  { days, from }: NonNullable<PaymentTerms['discount']>,
  invoiced: string,
  received: string | null,
): string | null {
  if (from === 'invoice') return plusDays(invoiced, days)
  if (from === 'receipt') return received && plusDays(received, days)
  const [year = 0, month = 0, day = 0] = invoiced.split('-').map(Number)
  const months = day >= LATE_IN_MONTH ? 2 : 1
  // The last day of the month before, and so many days.
  return plusDays(dayText(Date.UTC(year, month - 1 + months, 0)), days)
}

function plusDays(day: string, days: number): string {
  return dayText(Date.parse(`${day}T00:00:00Z`) + days * DAY)
}

function dayText(at: number): string {
  return new Date(at).toISOString().slice(0, 10)
}
