import type { Issue, RecordKind } from '../issue/issue'
import { labelOf } from './references'
import { type Change, currenciesTaken, type RecordOfKind, type Store } from './store'

/** Kinds chosen by name: a sentence could not distinguish two of one name. */
const CHOSEN_BY_NAME: ReadonlySet<RecordKind> = new Set([
  'channel',
  'region',
  'tax-class',
  'tax',
  'category',
  'price-family',
  'extra',
  'group',
  'price-list',
  'contract',
  'adjustment',
  'limit',
  'access-rule',
  'passcode',
  'promotion',
  'proof',
])

interface Named {
  readonly id: string
  readonly name: string
  readonly parent?: string | null
  readonly status?: string
  readonly state?: string
}

/**
 * What two records cannot both say, as far as the changes are the reason: one name, one e-mail of two accounts, one country
 * of two regions; and a region that pays in what the store does not take. Archived records are out of the way.
 */
export function checkDoubles(next: Store, changes: readonly Change[]): readonly Issue[] {
  const changed = changes.filter(({ after }) => after !== null && !isArchived(after))
  const kinds = new Set(changed.map(({ kind }) => kind))
  const names = new Map(
    [...kinds].filter((kind) => CHOSEN_BY_NAME.has(kind)).map((kind) => [kind, ownersOfNames(next, kind)]),
  )
  const emails = kinds.has('account') ? ownersOf(next.account, ({ emails: each }) => each) : null
  const countries = kinds.has('region') ? ownersOf(next.region, ({ countries: each }) => each) : null
  return changed.flatMap(({ kind, after }): readonly Issue[] => {
    const record = after as unknown as Named
    const label = labelOf(kind, after as RecordOfKind[RecordKind])
    const double = (field: string, value: string, owners: readonly Named[] | undefined): readonly Issue[] => {
      const other = owners?.find(({ id }) => id !== record.id)
      return other ? [{ code: 'duplicate', kind, label, field, value, expected: other.name }] : []
    }
    const found: Issue[] = [...double('name', record.name, names.get(kind)?.get(nameKey(record)))]
    if (kind === 'account')
      for (const email of (after as RecordOfKind['account']).emails)
        found.push(...double('emails', email, emails?.get(email.toLowerCase())))
    if (kind === 'region') {
      const region = after as RecordOfKind['region']
      for (const country of region.countries)
        found.push(...double('countries', country, countries?.get(country.toLowerCase())))
      if (region.currency !== null && !currenciesTaken(next).includes(region.currency))
        found.push({
          code: 'unknown',
          kind,
          label,
          field: 'currency',
          value: region.currency,
          expected: currenciesTaken(next).join(', '),
        })
    }
    return found
  })
}

function isArchived(record: object): boolean {
  const { status, state } = record as Partial<Named>
  return status === 'archived' || state === 'ended'
}

function ownersOfNames(store: Store, kind: RecordKind): ReadonlyMap<string, readonly Named[]> {
  const records = store[kind] as unknown as ReadonlyMap<string, Named>
  return ownersOf(records, (record) => [nameKey(record)])
}

/** Categories of one name differ by their parents. */
function nameKey({ name, parent }: Named): string {
  return `${parent ?? ''}/${name?.toLowerCase()}`
}

function ownersOf<Item extends { readonly id: string; readonly name: string }>(
  records: ReadonlyMap<string, Item>,
  said: (record: Item) => readonly string[],
): ReadonlyMap<string, readonly Item[]> {
  const owners = new Map<string, Item[]>()
  for (const record of records.values()) {
    if (isArchived(record)) continue
    for (const each of said(record)) {
      const known = owners.get(each.toLowerCase())
      if (known) known.push(record)
      else owners.set(each.toLowerCase(), [record])
    }
  }
  return owners
}
