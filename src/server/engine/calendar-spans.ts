import 'server-only'

import { compileSchedule, type Schedule, toInstant } from '@/core/predicates/when'
import { getSettings, type Store } from '@/core/store/store'
import type { RecordKind } from '@/core/issue/issue'
import type { Draft } from '../drafts/draft-rows'

export const SPAN_GROUPS = [
  'Publications',
  'Price lists',
  'Contracts',
  'Promotions',
  'Adjustments and access',
  'Proofs and certificates',
] as const
type SpanGroup = (typeof SPAN_GROUPS)[number]

/** Something that starts or ends. */
export interface CalendarSpan {
  readonly key: string
  readonly group: SpanGroup
  readonly name: string
  readonly kind: RecordKind | 'draft'
  /** What the record goes by in addresses. */
  readonly code: string
  /** Epoch milliseconds; ±infinity where open. A publication is a moment. */
  readonly from: number
  readonly to: number
  /** Whether it takes effect: off and draft ones are drawn and say so. */
  readonly isOn: boolean
  /** Where it does not hold throughout: its weekdays and hours. */
  readonly recurring: Schedule | null
  /** Of a contract: nothing goes on with its parties when it ends. */
  readonly isGap: boolean
}

/** Everything with a start or an end in a store, and the drafts that are planned. */
export function calendarSpans(store: Store, drafts: readonly Draft[]): readonly CalendarSpan[] {
  const { timeZone } = getSettings(store)
  const scheduled = (
    kind: 'price-list' | 'promotion' | 'adjustment' | 'access-rule' | 'limit' | 'proof',
    group: SpanGroup,
  ) =>
    [...store[kind].values()].flatMap((record): readonly CalendarSpan[] => {
      const { schedule, status, state, id, name, code } = record
      const compiled = compileSchedule(schedule, timeZone)
      if (status === 'archived' || (schedule.from === null && schedule.to === null && !compiled.recurring))
        return []
      return [
        {
          key: `${kind}/${id}`,
          group,
          name,
          kind,
          code,
          from: compiled.from,
          to: compiled.to,
          isOn: state === 'on',
          recurring: compiled.recurring ? schedule : null,
          isGap: false,
        },
      ]
    })
  const at = (local: string | null, open: number) => (local === null ? open : toInstant(local, timeZone))
  return [
    ...drafts.flatMap(({ id, name, code, publishAt }): readonly CalendarSpan[] =>
      publishAt
        ? [
            {
              key: `draft/${id}`,
              group: 'Publications',
              name,
              kind: 'draft',
              code,
              from: publishAt.getTime(),
              to: publishAt.getTime(),
              isOn: true,
              recurring: null,
              isGap: false,
            },
          ]
        : [],
    ),
    ...scheduled('price-list', 'Price lists'),
    ...[...store.contract.values()].flatMap((contract): readonly CalendarSpan[] => {
      const { id, code, name, from, to, state } = contract
      if (state === 'ended' || (from === null && to === null)) return []
      const isFollowed = [...store.contract.values()].some(
        (other) =>
          other.id !== id &&
          other.state === 'active' &&
          (other.to === null || (to !== null && other.to > to)) &&
          contract.accounts.every((each) => other.accounts.includes(each)) &&
          contract.groups.every((each) => other.groups.includes(each)),
      )
      return [
        {
          key: `contract/${id}`,
          group: 'Contracts',
          name: `${code} ${name}`,
          kind: 'contract',
          code,
          from: at(from, Number.NEGATIVE_INFINITY),
          to: at(to, Number.POSITIVE_INFINITY),
          isOn: state === 'active',
          recurring: null,
          isGap: to !== null && state === 'active' && !isFollowed,
        },
      ]
    }),
    ...scheduled('promotion', 'Promotions'),
    ...scheduled('adjustment', 'Adjustments and access'),
    ...scheduled('access-rule', 'Adjustments and access'),
    ...scheduled('limit', 'Adjustments and access'),
    ...[...store.passcode.values()].flatMap(
      ({ id, code, name, from, to, status }): readonly CalendarSpan[] =>
        status === 'archived' || (from === null && to === null)
          ? []
          : [
              {
                key: `passcode/${id}`,
                group: 'Adjustments and access',
                name: `Passcode “${name}”`,
                kind: 'passcode',
                code,
                from: at(from, Number.NEGATIVE_INFINITY),
                to: at(to, Number.POSITIVE_INFINITY),
                isOn: true,
                recurring: null,
                isGap: false,
              },
            ],
    ),
    ...scheduled('proof', 'Proofs and certificates'),
    ...[...store.account.values()].flatMap(
      ({ id, code, name, exemption, exemptUntil, status }): readonly CalendarSpan[] =>
        status === 'active' && exemption !== '' && exemptUntil !== null
          ? [
              {
                key: `account/${id}`,
                group: 'Proofs and certificates',
                name: `Tax certificate of ${name}`,
                kind: 'account',
                code,
                from: Number.NEGATIVE_INFINITY,
                to: toInstant(exemptUntil, timeZone),
                isOn: true,
                recurring: null,
                isGap: true,
              },
            ]
          : [],
    ),
  ]
}
