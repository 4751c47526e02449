import { REPORTS, type ReportShown, SALES_BY } from './report-view'

const DAY = /^\d{4}-\d{2}-\d{2}$/

/** What an address says; what it says wrongly is as usual: the 90 days before today. */
export function parseReport(
  fields: Readonly<Record<string, string | undefined>>,
  {
    today,
    currency,
    currencies,
  }: { readonly today: string; readonly currency: string; readonly currencies: readonly string[] },
): ReportShown {
  const day = (name: string, usual: string) =>
    DAY.test(fields[name] ?? '') ? (fields[name] as string) : usual
  const ago = new Date(Date.parse(today) - 89 * 86_400_000).toISOString().slice(0, 10)
  const wanted = fields['paid'] ?? ''
  return {
    report: REPORTS.find((each) => each === fields['report']) ?? 'realisation',
    by: SALES_BY.find((each) => each === fields['by']) ?? 'buyer',
    since: day('since', ago),
    until: day('until', today),
    currency: currencies.includes(wanted) ? wanted : currency,
  }
}

/** The fields of a report's address, or of its export. */
export function reportFields({ report, by, since, until, currency }: ReportShown): string {
  return new URLSearchParams({ report, by, since, until, paid: currency }).toString()
}
