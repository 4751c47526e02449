import type { Permission } from '@/core/staff/permission'
import type { What } from '@/core/predicates/what'
import type { Who } from '@/core/predicates/who'

/** Which buyers and items, as it stands and in words. */
export interface NarrowingView {
  readonly who: Who | null
  readonly what: What | null
  readonly whoWords: string
  readonly whatWords: string
}

export interface PersonView extends NarrowingView {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly role: string
  readonly roleName: string
  readonly standing: 'invited' | 'here' | 'left'
  /** "signed in today, 10:12", or what they have not done yet. */
  readonly seen: string
  readonly hasSecondFactor: boolean
  readonly version: number
  readonly isYou: boolean
}

export interface RoleView extends NarrowingView {
  readonly code: string
  readonly name: string
  readonly permissions: readonly Permission[]
  readonly version: number
  readonly isOwner: boolean
  /** Names of whoever has it. */
  readonly people: readonly string[]
}

/** What is open at the right. */
type StaffOpen =
  | { readonly kind: 'person'; readonly person: PersonView }
  | { readonly kind: 'role'; readonly role: RoleView }
  | { readonly kind: 'new-person' }
  | { readonly kind: 'nothing' }

export interface StaffView {
  readonly people: readonly PersonView[]
  readonly roles: readonly RoleView[]
  readonly open: StaffOpen
  /** What whoever looks may give away: nobody gives what they do not have. */
  readonly mayGive: readonly Permission[]
}
