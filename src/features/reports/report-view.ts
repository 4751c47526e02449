import type { Decimal } from '@/core/decimal/decimal'

export const REPORTS = ['realisation', 'sales', 'quotes'] as const
type ReportName = (typeof REPORTS)[number]

/** What sales are told apart by. */
export const SALES_BY = ['buyer', 'group', 'list', 'promotion'] as const
type SalesBy = (typeof SALES_BY)[number]

export interface ReportShown {
  readonly report: ReportName
  readonly by: SalesBy
  /** Local dates, both inside. */
  readonly since: string
  readonly until: string
  readonly currency: string
}

/** One bar of the way from base price to what was paid; amounts without tax. */
export interface RealisationStep {
  readonly key: string
  readonly name: string
  /** What is there after it, or by how much it moves what was there before. */
  readonly kind: 'sum' | 'change'
  readonly amount: Decimal
  /** Of the base price, with one digit. */
  readonly percent: Decimal | null
  /** The orders it is made of. */
  readonly href: string
}

export interface SalesRow {
  readonly key: string
  readonly name: string
  readonly href: string
  readonly orders: number
  readonly net: Decimal
  readonly cost: Decimal | null
  readonly margin: Decimal | null
  /** Of the largest row, for drawing: 0 to 1. */
  readonly share: number
}

interface QuoteRow {
  readonly key: string
  readonly name: string
  readonly href: string
  readonly count: number
  readonly value: Decimal
}

interface BuyerQuotes {
  readonly name: string
  readonly href: string
  readonly asked: number
  readonly won: number
  readonly lost: number
  /** Of those that are decided, with one digit; `null` where none is. */
  readonly rate: Decimal | null
}

export interface ReportView {
  readonly shown: ReportShown
  readonly currencies: readonly string[]
  readonly digits: number
  readonly orders: number
  /** What is left out, as sentences. */
  readonly leftOut: readonly string[]
  readonly realisation: readonly RealisationStep[]
  readonly sales: readonly SalesRow[]
  readonly quotes: readonly QuoteRow[]
  readonly reasons: readonly QuoteRow[]
  readonly buyers: readonly BuyerQuotes[]
}
