import { toInstant } from '../predicates/when'
import type { Contract } from '../price/contract'
import type { Change, Store } from '../store/store'
import { getSettings } from '../store/store'
import type { Steps } from '../steps/steps'
import { aboutRecord, type Finding, type FindingKind, type Looking } from './finding'

const DAY = 86_400_000
/** What ends within so many days is told while there is time to do something about it. */
const SOON_DAYS = 90

export const CONTRACT_FINDINGS: FindingKind = {
  code: 'contract-ends',
  looksAt: ['contract', 'settings', 'account', 'group'],
  *find({ prepared: { store }, at }: Looking): Steps<readonly Finding[]> {
    yield
    const { timeZone } = getSettings(store)
    return [...store.contract.values()].flatMap((contract): readonly Finding[] => {
      if (contract.state !== 'active' || contract.to === null || isFollowed(store, contract)) return []
      const days = Math.floor((toInstant(contract.to, timeZone) - at) / DAY)
      if (days > SOON_DAYS) return []
      const facts = { days: String(Math.abs(days)), day: contract.to.slice(0, 10) }
      return days < 0
        ? [
            aboutRecord('contract-ended', 'wrong-for-buyers', { kind: 'contract', id: contract.id }, facts, [
              ended(contract),
            ]),
          ]
        : [aboutRecord('contract-ends', 'soon', { kind: 'contract', id: contract.id }, facts)]
    })
  },
}

/** Whether another contract goes on with the same parties when one ends. */
function isFollowed(store: Store, { id, to, accounts, groups }: Contract): boolean {
  return [...store.contract.values()].some(
    (other) =>
      other.id !== id &&
      other.state === 'active' &&
      (other.to === null || (to !== null && other.to > to)) &&
      accounts.every((account) => other.accounts.includes(account)) &&
      groups.every((group) => other.groups.includes(group)),
  )
}

function ended(contract: Contract): Change {
  return { kind: 'contract', id: contract.id, before: contract, after: { ...contract, state: 'ended' } }
}

export const LIST_FINDINGS: FindingKind = {
  code: 'list-over',
  looksAt: ['price-list', 'settings'],
  *find({ prepared: { lists }, at }: Looking): Steps<readonly Finding[]> {
    yield
    return [...lists.values()].flatMap(({ list, schedule }): readonly Finding[] => {
      if (list.state !== 'on' || list.status !== 'active' || schedule.to > at) return []
      const facts = { day: list.schedule.to?.slice(0, 10) ?? '' }
      const off: Change = {
        kind: 'price-list',
        id: list.id,
        before: list,
        after: { ...list, status: 'archived' },
      }
      return [aboutRecord('list-over', 'untidy', { kind: 'price-list', id: list.id }, facts, [off])]
    })
  },
}

export const PASSCODE_FINDINGS: FindingKind = {
  code: 'passcode-over',
  looksAt: ['passcode', 'settings'],
  *find({ prepared: { terms }, at }: Looking): Steps<readonly Finding[]> {
    yield
    return [...terms.passcodes.values()].flatMap(({ passcode, period }): readonly Finding[] => {
      if (period.to > at) return []
      const facts = { day: passcode.to?.slice(0, 10) ?? '' }
      const off: Change = {
        kind: 'passcode',
        id: passcode.id,
        before: passcode,
        after: { ...passcode, status: 'archived' },
      }
      return [aboutRecord('passcode-over', 'untidy', { kind: 'passcode', id: passcode.id }, facts, [off])]
    })
  },
}

export const EXEMPTION_FINDINGS: FindingKind = {
  code: 'exemption-over',
  looksAt: ['account', 'settings'],
  *find({ prepared: { store }, at }: Looking): Steps<readonly Finding[]> {
    yield
    const { timeZone } = getSettings(store)
    return [...store.account.values()].flatMap((account): readonly Finding[] => {
      const { exemption, exemptUntil, status, id } = account
      if (status !== 'active' || exemption === '' || exemptUntil === null) return []
      if (toInstant(exemptUntil, timeZone) > at) return []
      return [
        aboutRecord(
          'exemption-over',
          'wrong-for-buyers',
          { kind: 'account', id },
          { day: exemptUntil.slice(0, 10) },
        ),
      ]
    })
  },
}
