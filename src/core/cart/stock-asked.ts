import type { Store } from '../store/store'

/** Ids of the variants whose stock a cart asks for: what is in it, and what promotions may add. */
export function stockAsked(
  { promotion }: Pick<Store, 'promotion'>,
  lines: readonly { readonly variant: string }[],
): readonly string[] {
  const gifts = [...promotion.values()].flatMap(({ value }) =>
    'gift' in value && typeof value.gift === 'object' ? [value.gift.variant] : [],
  )
  return [...new Set([...lines.map(({ variant }) => variant), ...gifts])]
}
