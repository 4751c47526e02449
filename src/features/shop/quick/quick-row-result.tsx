'use client'

import type { Decimal } from '@/core/decimal/decimal'
import { formatAmount } from '@/ui/format/amount'
import { ProductPicture } from '@/ui/format/product-picture'
import type { ResolvedRow } from './resolved'

interface QuickRowResultProps {
  readonly result: ResolvedRow
  readonly isLast: boolean
  readonly digits: number
  readonly priceDigits: number
  readonly typed: string
  readonly onSku: (sku: string) => void
  readonly onQuantity: (quantity: string) => void
}

/** What a row comes to: the item with its price, or what is wrong with what would do instead. */
export function QuickRowResult(props: QuickRowResultProps) {
  const { result, isLast, digits, priceDigits, typed, onSku, onQuantity } = props
  if (result.kind === 'empty')
    return (
      <td colSpan={3} className="px-3 text-soft max-sm:hidden">
        {isLast && 'The next line goes here'}
      </td>
    )
  if (result.kind === 'unknown')
    return (
      <td colSpan={3} className="px-3 py-1.5 max-sm:col-span-2">
        <div className="flex gap-4">
          <span
            aria-hidden
            className="grid h-10 w-13 shrink-0 place-content-center border border-dashed border-error text-error max-sm:hidden"
          >
            ?
          </span>
          <span>
            <b>Nothing here has the SKU {typed.trim()}</b>
            <span className="block text-soft">
              {result.near.length === 0 ? (
                'Check how it is written.'
              ) : (
                <>
                  Did you mean{' '}
                  {result.near.map(({ sku, name }, at) => (
                    <span key={sku}>
                      {at > 0 && (at === result.near.length - 1 ? ' or ' : ', ')}
                      <Choice onClick={() => onSku(sku)}>{sku}</Choice> {name}
                    </span>
                  ))}
                  ?
                </>
              )}
            </span>
          </span>
        </div>
      </td>
    )
  const { picture, name, unit } = result
  return (
    <>
      <td className="px-3 py-1.5 max-sm:col-span-2">
        <div className="flex gap-4">
          <span className="h-10 w-13 shrink-0 bg-plate max-sm:hidden">
            {picture && <ProductPicture name={picture} className="h-10 w-13 object-contain" />}
          </span>
          <span>
            <b className="font-semibold">{name}</b>
            {result.kind === 'ready' ? (
              result.note && <span className="block text-soft">{result.note}</span>
            ) : (
              <span className="block text-error">
                {result.problem}
                {result.fixes.length > 0 && (
                  <span className="text-base-content">
                    {' '}
                    Make it{' '}
                    {result.fixes.map((fix, at) => (
                      <span key={fix}>
                        {at > 0 && ' or '}
                        <Choice onClick={() => onQuantity(fix)}>{fix}</Choice>
                      </span>
                    ))}
                  </span>
                )}
              </span>
            )}
          </span>
        </div>
      </td>
      <Amount value={unit} digits={priceDigits} label="each" />
      <Amount value={result.kind === 'ready' ? result.total : null} digits={digits} label="" isWhole />
    </>
  )
}

function Amount({
  value,
  digits,
  label,
  isWhole = false,
}: {
  readonly value: Decimal | null
  readonly digits: number
  readonly label: string
  readonly isWhole?: boolean
}) {
  return (
    <td
      className={`py-1.5 text-right tabular-nums max-sm:px-3 max-sm:pb-2 ${isWhole ? 'font-semibold' : 'max-sm:text-left'}`}
    >
      {value === null ? <span className="font-normal text-soft">–</span> : formatAmount(value, digits)}
      {value !== null && label && <span className="text-soft sm:hidden"> {label}</span>}
    </td>
  )
}

function Choice({ onClick, children }: { readonly onClick: () => void; readonly children: string }) {
  return (
    <button type="button" className="font-semibold underline underline-offset-2" onClick={onClick}>
      {children}
    </button>
  )
}
