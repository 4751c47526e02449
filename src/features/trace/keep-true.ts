import type { Vantage } from '@/core/engine/context/vantage'
import { withTextsInUrl } from '@/ui/frame/texts-url'
import type { TraceView } from './trace-view'

/** Where a proof is written of a price as it is now: its sheet, filled in as far as the trace knows. */
export function keepHref(sku: string, { as }: Vantage, { unit, currency, quantity }: TraceView): string {
  const who = as.startsWith('email:')
    ? as.slice('email:'.length)
    : as.startsWith('tag:')
      ? `#${as.slice(4)}`
      : nameOf(as)
  const texts = {
    name: `${sku} for ${who}`,
    audience: as === 'guest' ? 'guests' : who,
    quantity,
    scope: sku,
    ...(unit === null ? { claim: 'never-bought' } : { claim: 'price-is', value: unit, currency }),
  }
  return withTextsInUrl('/proofs/new', '', texts) ?? '/proofs/new'
}

/** Codes are read by the field as well as names. */
function nameOf(as: string): string {
  return as.includes(':') ? as.slice(as.indexOf(':') + 1) : as
}
