import type { Vantage } from '@/core/engine/context/vantage'
import type { Store } from '@/core/store/store'
import { DEFAULT_VANTAGE } from '@/ui/frame/vantage-url'

/**
 * What a comparison opens with: guests, and whoever is looked as. Looking as a guest oneself, the first trade
 * group stands beside them (else the first group), since one column compares nothing.
 */
export function comparedColumns(store: Store, vantage: Vantage): readonly Vantage[] {
  if (vantage.as !== 'guest') return [DEFAULT_VANTAGE, vantage]
  const groups = [...store.group.values()]
    .filter(({ status }) => status === 'active')
    .sort((left, right) => left.position - right.position)
  const other = groups.find(({ trade }) => trade) ?? groups[0]
  return other ? [DEFAULT_VANTAGE, { ...DEFAULT_VANTAGE, as: `group:${other.code}` }] : [DEFAULT_VANTAGE]
}
