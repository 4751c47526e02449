import type { Decimal } from '@/core/decimal/decimal'
import { toFraction } from '@/core/decimal/fraction'
import { type RoundingRule, roundPrice } from '@/core/decimal/rounding'

/** An exact price on a line, with the prices a rule allows next to it, and the one it goes to. */
export function NumberLine({ exact, rule }: { readonly exact: Decimal; readonly rule: RoundingRule }) {
  const value = Number(exact)
  const side = (mode: 'up' | 'down') =>
    Number(roundPrice(toFraction(exact), { ...rule, mode } as RoundingRule))
  const chosen = Number(roundPrice(toFraction(exact), rule))
  const [below, above] = [Math.min(side('down'), value), Math.max(side('up'), value)]
  const margin = Math.max(above - below, 0.01) * 0.25
  const place = (amount: number) => 12 + ((amount - below + margin) / (above - below + 2 * margin)) * 216
  const marks = [...new Set([side('down'), side('up')])]
  return (
    <svg viewBox="0 0 240 46" className="w-full max-w-sm" role="img">
      <title>{`${exact} goes to ${chosen}`}</title>
      <line x1="12" x2="228" y1="24" y2="24" className="stroke-base-content/50" />
      {marks.map((mark) => (
        <g key={mark} className={mark === chosen ? 'fill-primary' : 'fill-bar'}>
          <rect x={place(mark) - 1.5} y="16" width="3" height="16" />
          <text
            x={place(mark)}
            y="44"
            textAnchor="middle"
            className={`text-[10px] ${mark === chosen ? 'fill-base-content font-bold' : 'fill-soft'}`}
          >
            {mark.toFixed(2)}
          </text>
        </g>
      ))}
      <line
        x1={place(value)}
        x2={place(chosen)}
        y1="24"
        y2="24"
        strokeWidth="2"
        className="stroke-secondary"
      />
      <circle cx={place(value)} cy="24" r="4" strokeWidth="2" className="fill-base-100 stroke-secondary" />
      <text x={place(value)} y="12" textAnchor="middle" className="fill-secondary text-[10px] font-bold">
        {exact}
      </text>
    </svg>
  )
}
