import type { AccessRule, Passcode } from '../access/access'
import type { Issue } from '../issue/issue'
import type { Change, Store } from './store'

/** Words given out twice, and rules that change nothing, as far as the changes are the reason. */
export function checkAccess(next: Store, changes: readonly Change[]): readonly Issue[] {
  return changes.flatMap((change): readonly Issue[] => {
    if (change.after === null) return []
    if (change.kind === 'passcode') return checkWord(next, change.after)
    return change.kind === 'access-rule' ? checkEffect(next, change.after) : []
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

/**
 * Everything is shown to everyone anyway, or another rule says when this one would count. What is refused of a rule is
 * refused of the other too, so that a store that was let in stays one that can be read back.
 */
function checkEffect(next: Store, rule: AccessRule): readonly Issue[] {
  const { code, effect, audience, scope } = rule
  const other = [...next['access-rule'].values()].find(
    (other) => other.id !== rule.id && areAlike(rule, other),
  )
  if (other)
    return [
      {
        code: 'shadowed',
        kind: 'access-rule',
        label: code,
        field: 'rank',
        value: code,
        expected: other.name,
      },
    ]
  const isForAll =
    effect === 'show' &&
    audience.include.some(({ kind }) => kind === 'everyone') &&
    scope.include.every(({ kind }) => kind === 'everything')
  if (!isForAll) return []
  return [
    { code: 'no-effect', kind: 'access-rule', label: code, field: 'effect', value: effect, expected: 'hide' },
  ]
}

/** Whether two rules are for the very same buyers, goods, places and times at one rank: one of them never counts. */
function areAlike(rule: AccessRule, other: AccessRule): boolean {
  const areInForce = [rule, other].every(({ state, status }) => state === 'on' && status === 'active')
  return (
    areInForce &&
    (['audience', 'scope', 'place', 'schedule', 'rank'] as const).every(
      (part) => JSON.stringify(rule[part]) === JSON.stringify(other[part]),
    )
  )
}
