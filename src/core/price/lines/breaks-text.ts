import type { BreaksInput } from './parse-breaks'
import { methodText, parseMethodText } from './method-text'
import type { BreakCounting, BreakPricing, Breaks } from './price-method'

/** Words behind the rules that say how quantities count. */
const COUNTING: Readonly<Record<Exclude<BreakCounting, 'variant'>, string>> = {
  product: '[all variants]',
  line: '[together]',
}
const GRADUATED = '[each bracket]'

/**
 * Rules by quantity as they are typed: `-12%` for any, `-12%; 10: -15%; 50: -18%` from quantities on. Behind them
 * `[all variants]` or `[together]` says whose quantity counts, `[each bracket]` that only the units inside a
 * bracket have its price.
 *
 * Errors  the part that is none of these.
 * Holds   `parseBreaksText(breaksText(breaks))` is `breaks`.
 */
export function parseBreaksText(
  text: string,
  findList: (code: string) => string | null = () => null,
): { readonly ok: true; readonly value: BreaksInput } | { readonly ok: false; readonly part: string } {
  let rest = text
  const take = (words: string): boolean => {
    if (!rest.includes(words)) return false
    rest = rest.replace(words, '')
    return true
  }
  const counting: BreakCounting = take(COUNTING.product)
    ? 'product'
    : take(COUNTING.line)
      ? 'line'
      : 'variant'
  const pricing: BreakPricing = take(GRADUATED) ? 'graduated' : 'all-units'
  const breaks: { from: string; method: BreaksInput['breaks'][number]['method'] }[] = []
  for (const part of rest.split(';').map((each) => each.trim())) {
    const [, quantity, rule = ''] = /^(?:(\d*\.?\d+)\s*:)?(.*)$/.exec(part) ?? []
    const method = parseMethodText(rule, findList)
    if (!method) return { ok: false, part }
    breaks.push({ from: quantity ?? '0', method })
  }
  return { ok: true, value: { breaks, counting, pricing } }
}

/** `codeOf` tells the code of a list by its id. */
export function breaksText({ breaks, counting, pricing }: Breaks, codeOf?: (list: string) => string): string {
  const rules = breaks.map(({ from, method }) => {
    const rule = methodText(method, codeOf)
    return from === '0' ? rule : `${from}: ${rule}`
  })
  return [
    rules.join('; '),
    ...(counting === 'variant' ? [] : [COUNTING[counting]]),
    ...(pricing === 'graduated' ? [GRADUATED] : []),
  ].join(' ')
}
