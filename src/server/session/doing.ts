import 'server-only'

import type { Sight } from '@/core/engine/context/narrowed'
import type { Permission } from '@/core/staff/permission'
import type { Narrowing } from '@/core/staff/role'
import { AsyncLocalStorage } from 'node:async_hooks'

/** Who does something on the merchant's side, and what they may. */
export interface Doer {
  /** Id of the person, or of the key a program came with; `null` where nobody has to sign in. */
  readonly id: string | null
  readonly kind: 'person' | 'key' | 'open-door'
  /** Whose name stands in the history. */
  readonly name: string
  readonly email: string
  readonly role: string
  readonly permissions: ReadonlySet<Permission>
  /** Buyers and items must be within each of these. */
  readonly narrowings: readonly Narrowing[]
  /** Buyers they see, by the ids of their accounts, and whether guests too; `null` is all. */
  readonly buyers: { readonly accounts: ReadonlySet<string>; readonly guests: boolean } | null
}

// The framework evaluates this module several times in one process.
const HELD = Symbol.for('steppe.doing')
const holder = globalThis as { [HELD]?: AsyncLocalStorage<Doer> }
const doing = (holder[HELD] ??= new AsyncLocalStorage<Doer>())

/** Does something in the name of somebody. */
export function doAs<Result>(doer: Doer, act: () => Result): Result {
  return doing.run(doer, act)
}

/** In whose name something is being done; `null` where that has not been said: in a job, in the shop. */
export function currentDoer(): Doer | null {
  return doing.getStore() ?? null
}

/** How much of a store somebody is shown; nobody known sees no costs. */
export function sightOf(doer: Doer | null): Sight {
  return {
    hidesCosts: doer?.permissions.has('costs:see') !== true,
    accounts: doer?.buyers?.accounts ?? null,
  }
}
