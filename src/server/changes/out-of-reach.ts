import 'server-only'

import { wholeOf } from '@/core/engine/context/narrowed'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { scopeMatcher } from '@/core/engine/items/scope-matcher'
import type { What } from '@/core/predicates/what'
import type { RecordKind } from '@/core/issue/issue'
import { isClaimOfCosts, type Proof } from '@/core/proofs/proof'
import { labelOf } from '@/core/store/references'
import type { Change } from '@/core/store/store'
import { withCostsOf } from '@/core/store/without-costs'
import type { Target } from '../views/view'

/** A change somebody may not make: it tells or sets a cost they must not know, or reaches further than they work. */
export interface OutOfReach {
  readonly ok: false
  readonly code: 'out-of-reach'
  readonly why: 'costs' | 'items'
  readonly label: string
}

/** A record as somebody wants it to be. */
interface Asked {
  readonly kind: RecordKind
  readonly id: string
  readonly after: object | null
}

type Reach = Pick<Target, 'sight' | 'within'>

/**
 * A request as it is meant by somebody who was shown no costs: those of the record stay as they are.
 *
 * Errors  `out-of-reach` where it sets a cost.
 */
export function withHiddenCosts<Request extends Asked>(
  request: Request,
  { prepared }: Pick<Target, 'prepared'>,
): Request | OutOfReach {
  const { kind, id, after } = request
  if (after === null || (kind !== 'product' && kind !== 'variant' && kind !== 'extra')) return request
  const before = (prepared && wholeOf(prepared))?.store[kind].get(id) ?? null
  const whole = withCostsOf(after, before)
  return whole
    ? { ...request, after: whole }
    : { ok: false, code: 'out-of-reach', why: 'costs', label: before ? labelOf(kind, before) : id }
}

/** The first of some changes that whoever makes them may not make; `null` where there is none. */
export function findOutOfReach(
  { sight, within = [] }: Reach,
  changes: readonly Change[],
  before: PreparedStore | null,
  after: PreparedStore,
): OutOfReach | null {
  const strange = changes.find(
    ({ kind, id, before: was }) => kind === 'account' && was !== null && sight?.accounts?.has(id) === false,
  )
  if (strange) return outOfReach(strange, 'items')
  if (sight?.hidesCosts) {
    const telling = changes.find(
      ({ kind, after: is, before: was }) => tellsOfCosts(kind, is) && !tellsOfCosts(kind, was),
    )
    if (telling) return outOfReach(telling, 'costs')
  }
  if (within.length === 0) return null
  const sides = [before, after].flatMap((prepared) =>
    prepared ? [{ prepared, holds: holdsAll(prepared, within) }] : [],
  )
  const further = changes.find(
    (change) => !sides.every(({ prepared, holds }) => isWithin(change, prepared, holds)),
  )
  return further ? outOfReach(further, 'items') : null
}

function outOfReach(change: Change, why: OutOfReach['why']): OutOfReach {
  const record = change.after ?? change.before
  return { ok: false, code: 'out-of-reach', why, label: record ? labelOf(change.kind, record) : change.id }
}

/** Whether a rule starts from what things cost, or a proof asks what is left of it: trying such out would tell. */
function tellsOfCosts(kind: RecordKind, record: object | null): boolean {
  if (record === null) return false
  if (kind === 'proof') return isClaimOfCosts((record as Proof).claim)
  return JSON.stringify(record).includes('{"kind":"cost"}')
}

function holdsAll(prepared: PreparedStore, within: readonly What[]): (number: number) => boolean {
  const matchers = within.map((what) => scopeMatcher(prepared, what))
  return (number) => matchers.every((holds) => holds(number))
}

/** Whether all that a change touches in a store lies where somebody works; what reaches no item is not theirs to change. */
function isWithin(
  { kind, id, before, after }: Change,
  prepared: PreparedStore,
  holds: (number: number) => boolean,
): boolean {
  const { index } = prepared
  if (kind === 'variant' || kind === 'extra') {
    const number = index.numberOf.get(id)
    return number === undefined || holds(number)
  }
  if (kind === 'product') return (index.numbersOfProduct.get(id) ?? []).every(holds)
  if (
    kind === 'price-line' ||
    kind === 'adjustment' ||
    kind === 'limit' ||
    kind === 'access-rule' ||
    kind === 'promotion'
  )
    return [before, after].every((record) => {
      if (!record) return true
      const reaches = scopeMatcher(prepared, record.scope)
      return index.items.every((_, number) => !reaches(number) || holds(number))
    })
  return false
}
