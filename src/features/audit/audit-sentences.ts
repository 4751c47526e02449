import { isKeyScope } from '@/core/staff/key-scope'
import { isPermission } from '@/core/staff/permission'
import type { AuditEvent, AuditKind } from '@/server/staff/audit'
import { permissionWords, scopeWords } from '@/ui/format/permission-words'

const KINDS: Readonly<Record<AuditKind, string>> = {
  'signed-in': 'signed in',
  'signed-out': 'signed out',
  'sign-in-refused': 'could not sign in',
  refused: 'was refused something',
  'password-set': 'set a password',
  'password-asked': 'asked for a new password',
  'second-factor': 'changed the second factor',
  'passkey-added': 'added a passkey',
  'passkey-removed': 'removed a passkey',
  'became-owner': 'became the owner',
  'person-invited': 'invited somebody',
  'person-changed': 'changed what somebody may do',
  'person-left': 'let somebody in no more',
  'role-changed': 'changed a role',
  'key-made': 'made a key',
  'key-revoked': 'ended a key',
  exported: 'took something out',
  published: 'published a draft',
  'store-replaced': 'put a store document in',
}

export function kindWords(kind: AuditKind): string {
  return KINDS[kind]
}

/** Scopes as they are written down, in words. */
function scopesIn(detail: string): string {
  return detail
    .split(', ')
    .map((each) => (isKeyScope(each) ? scopeWords(each) : each))
    .join(', ')
}

/** What somebody did, after their name. */
export function auditSentence({
  kind,
  about,
  detail,
}: Pick<AuditEvent, 'kind' | 'about' | 'detail'>): string {
  switch (kind as AuditKind) {
    case 'signed-in':
      return detail === '' ? 'signed in' : `signed in with a ${detail}`
    case 'sign-in-refused':
      return `could not sign in: wrong ${detail}`
    case 'refused':
      return `was refused at ${detail === '' ? 'an action' : detail}: ${isPermission(about) ? permissionWords(about).toLowerCase() : about}`
    case 'second-factor':
      return `turned the second factor ${detail}`
    case 'passkey-added':
      return `added the passkey “${about}”`
    case 'passkey-removed':
      return `removed the passkey “${about}”`
    case 'person-invited':
      return `invited ${about}${detail === '' ? '' : ` as ${detail}`}`
    case 'person-changed':
      return `changed what ${about} may do: ${detail}`
    case 'person-left':
      return `lets ${about} in no more`
    case 'role-changed':
      return `changed the role ${about}: ${detail.split(' ').length} permissions`
    case 'key-made':
      return `made the key “${about}”, which may ${scopesIn(detail)}`
    case 'key-revoked':
      return `ended the key “${about}”`
    case 'exported':
      return `took out ${about}${detail === '' ? '' : `: ${detail}`}`
    case 'published':
      return `published “${about}”${detail === '' ? '' : `, ${detail}`}`
    case 'store-replaced':
      return `put a store document in: ${detail}`
    default:
      return KINDS[kind as AuditKind] ?? kind
  }
}
