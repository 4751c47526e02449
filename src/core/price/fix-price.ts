import type { Decimal } from '../decimal/decimal'
import type { PriceLine } from './price-list'

/** A line of a list before and after; `null` means it did not, or does no longer, exist. */
export interface LineChange {
  readonly before: PriceLine | null
  readonly after: PriceLine | null
}

/** The place behind the last line. */
export function nextPosition(lines: readonly PriceLine[]): number {
  return lines.reduce((last, { position }) => Math.max(last, position), -1) + 1
}

/**
 * What must change in a list's lines so that one variant costs a fixed amount in it.
 *
 * A line that is for this variant alone is changed; otherwise one is added under `id`, and lines that name the
 * variant among others let go of it, since they are as specific and would win by standing first.
 *
 * Units   amount in currency units, above zero; `lines` are all lines of the list.
 */
export function fixPrice(
  lines: readonly PriceLine[],
  variant: string,
  amount: Decimal,
  { list, id }: { readonly list: string; readonly id: string },
): readonly LineChange[] {
  const method = { kind: 'fixed', amount } as const
  const own = findOwnLine(lines, variant)
  if (own) return [{ before: own, after: { ...own, method } }]
  const added: PriceLine = {
    id,
    list,
    position: nextPosition(lines),
    scope: { include: [{ kind: 'variant', variant }], exclude: [] },
    method,
    rounding: null,
  }
  const letGo = lines
    .filter(({ scope }) => scope.include.some((term) => term.kind === 'variant' && term.variant === variant))
    .map((line) => ({ before: line, after: withoutVariant(line, variant) }))
  return [...letGo, { before: null, after: added }]
}

/** What must change so that a list's own line for one variant is gone: nothing where there is none. */
export function releasePrice(lines: readonly PriceLine[], variant: string): readonly LineChange[] {
  const own = findOwnLine(lines, variant)
  return own ? [{ before: own, after: null }] : []
}

/**
 * Which of a buyer's own lists an edited price goes to: the one that decides already, else the first asked.
 *
 * Errors  `undefined` for a buyer without lists of their own.
 */
export function listToEdit<List extends { readonly id: string }>(
  own: readonly List[],
  deciding: string | null,
): List | undefined {
  return own.find(({ id }) => id === deciding) ?? own[0]
}

/** The line that is for this variant and for nothing else. */
function findOwnLine(lines: readonly PriceLine[], variant: string): PriceLine | undefined {
  return lines.find(({ scope: { include, exclude } }) => {
    const [term] = include
    return (
      include.length === 1 && exclude.length === 0 && term?.kind === 'variant' && term.variant === variant
    )
  })
}

/** The line for what else it names; a line that names nothing else is gone. */
function withoutVariant(line: PriceLine, variant: string): PriceLine | null {
  const include = line.scope.include.filter((term) => term.kind !== 'variant' || term.variant !== variant)
  return include.length === 0 ? null : { ...line, scope: { ...line.scope, include } }
}
