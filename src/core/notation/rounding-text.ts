import { decimal } from '../decimal/decimal'
import { toFraction } from '../decimal/fraction'
import type { RoundingRule } from '../decimal/rounding'
import type { RoundingInput } from '../issue/parse-rounding'
import type { ReadRule } from './read-rule'

const STEP_MODES = {
  '': 'half-up',
  up: 'up',
  down: 'down',
  even: 'half-even',
  'half-down': 'half-down',
  ceiling: 'ceiling',
  floor: 'floor',
} as const

/** `0.05`, `0.05 up`, `ends .45 .95`, `ends 4.90 9.90 in 10 up`; empty for the smallest unit. */
export function readRounding(text: string): ReadRule<RoundingInput | null> {
  const typed = text.trim().toLowerCase()
  if (typed === '') return { ok: true, value: null }
  // “.95” and “.49 .99” are how endings are spoken of; “.05” is a step, which divides a whole.
  const spoken = /^\.\d+(?:\s+\.\d+)*$/.test(typed) ? typed.split(/\s+/) : []
  if (spoken.length > 1 || spoken.some((part) => !dividesOne(part)))
    return { ok: true, value: { kind: 'endings', period: '1', endings: spoken, mode: 'nearest' } }
  const step = /^(\d*\.?\d+)\s*(up|down|even|half-down|ceiling|floor)?$/.exec(typed)
  if (step?.[1] !== undefined)
    return {
      ok: true,
      value: { kind: 'step', step: step[1], mode: STEP_MODES[(step[2] ?? '') as keyof typeof STEP_MODES] },
    }
  const ends = /^ends\s+([\d.\s]+?)(?:\s+in\s+(\d+))?(?:\s+(up|down))?$/.exec(typed)
  if (ends?.[1] !== undefined)
    return {
      ok: true,
      value: {
        kind: 'endings',
        period: ends[2] ?? '1',
        endings: ends[1].trim().split(/\s+/),
        mode: (ends[3] as 'up' | 'down' | undefined) ?? 'nearest',
      },
    }
  return {
    ok: false,
    problem: `“${text}” is no rounding. Type 0.05, 0.05 up, ends .95 or ends 4.90 9.90 in 10.`,
  }
}

export function writeRounding(rule: RoundingRule | null): string {
  if (rule === null) return ''
  if (rule.kind === 'step') {
    const mode = Object.entries(STEP_MODES).find(([, value]) => value === rule.mode)?.[0] ?? ''
    return `${rule.step} ${mode}`.trim()
  }
  const period = rule.period === '1' ? '' : ` in ${rule.period}`
  return `ends ${rule.endings.join(' ')}${period}${rule.mode === 'nearest' ? '' : ` ${rule.mode}`}`
}

function dividesOne(step: string): boolean {
  const { numerator, denominator } = toFraction(decimal(step))
  return numerator > 0n && denominator % numerator === 0n
}
