import type { Decimal } from '@/core/decimal/decimal'
import type { PriceTax } from '@/core/engine/rules/find-tax'
import type { Store } from '@/core/store/store'
import type { LevyMiss } from '@/core/tax/find-levies'
import { formatMoney } from './amount'
import { recordHref } from '@/ui/frame/record-href'

/** One line of a tax worked out; a part with `href` is the name of a record. */
interface TaxLine {
  readonly parts: readonly { readonly text: string; readonly href?: string }[]
  readonly outcome: string
}

/** The tax of a price step by step, and why each other tax does not fall on it. */
export function taxLines(
  store: Store,
  tax: PriceTax | null,
  currency: string,
  digits: number,
): readonly TaxLine[] {
  if (!tax) return []
  const money = (amount: Decimal) => formatMoney(amount, currency, digits)
  const taxClass = tax.taxClass === null ? undefined : store['tax-class'].get(tax.taxClass)
  const lines: TaxLine[] = [
    {
      parts: [
        { text: 'Without tax' },
        taxClass
          ? { text: `(class ${taxClass.name})`, href: recordHref('tax-classes', taxClass.code) }
          : { text: '(no class)' },
      ],
      outcome: money(tax.net),
    },
    ...tax.taxes.map(({ levy, on, amount }) => ({
      parts: [
        { text: levy.tax.name, href: recordHref('tax-names', levy.tax.code) },
        { text: `${levy.percent} % on ${money(on)}` },
      ],
      outcome: money(amount),
    })),
  ]
  if (tax.untaxed)
    lines.push({
      parts: [
        {
          text:
            tax.untaxed === 'certificate'
              ? 'Nothing is charged: the account has a certificate of exemption'
              : 'Nothing is charged: the business accounts for the tax in its own country (reverse charge)',
        },
      ],
      outcome: '',
    })
  else if (tax.taxes.length > 0) lines.push({ parts: [{ text: 'With tax' }], outcome: money(tax.gross) })
  for (const miss of tax.misses)
    lines.push({
      parts: [
        { text: miss.tax.name, href: recordHref('tax-names', miss.tax.code) },
        { text: missPhrase(store, miss) },
      ],
      outcome: '',
    })
  return lines
}

/** Why a tax falls on nothing here. */
function missPhrase(store: Store, miss: LevyMiss): string {
  switch (miss.code) {
    case 'no-rates':
      return 'has no rates yet'
    case 'not-on-delivery':
      return 'does not fall on delivery'
    case 'other-place': {
      const some = miss.places.slice(0, 6).join(' · ')
      return `does not fall here: its rates are for ${some}${miss.places.length > 6 ? ` and ${miss.places.length - 6} more` : ''}`
    }
    case 'other-class': {
      const names = [...new Set(miss.classes)].map((id) => store['tax-class'].get(id)?.name ?? id)
      return `has rates here only for the ${names.length === 1 ? 'class' : 'classes'} ${names.join(', ')}`
    }
    case 'not-now':
      return `holds ${miss.from ? `from ${miss.from.slice(0, 10)}` : ''}${miss.to ? ` until ${miss.to.slice(0, 10)}` : ''}`
  }
}
