import type { AccessRule, Passcode } from '../access/access'
import type { Issue } from '../issue/issue'
import type { Change, Store } from './store'

/** Words given out twice, and rules that change nothing, as far as the changes are the reason. */
export function checkAccess(next: Store, changes: readonly Change[]): readonly Issue[] {
  return changes.flatMap((change): readonly Issue[] => {
    if (change.after === null) return []
    if (change.kind === 'passcode') return checkWord(next, change.after)
    return change.kind === 'access-rule' ? checkEffect(change.after) : []
  })
}

function checkWord(next: Store, passcode: Passcode): readonly Issue[] {
  const same = (other: Passcode) =>
    other.id !== passcode.id && other.word.toLowerCase() === passcode.word.toLowerCase()
  const taken = [...next.passcode.values()].find(same)
  if (!taken) return []
  const { code, word } = passcode
  return [
    { code: 'duplicate', kind: 'passcode', label: code, field: 'word', value: word, expected: taken.name },
  ]
}

/** Everything is shown to everyone anyway. */
function checkEffect({ code, effect, audience, scope }: AccessRule): readonly Issue[] {
  const isForAll =
    effect === 'show' &&
    audience.include.some(({ kind }) => kind === 'everyone') &&
    scope.include.every(({ kind }) => kind === 'everything')
  if (!isForAll) return []
  return [
    { code: 'no-effect', kind: 'access-rule', label: code, field: 'effect', value: effect, expected: 'hide' },
  ]
}
