/** What a program may do with a key. */
export const KEY_SCOPES = ['prices:ask', 'costs:see', 'store:read', 'store:write', 'measures:read'] as const

export type KeyScope = (typeof KEY_SCOPES)[number]

export function isKeyScope(text: unknown): text is KeyScope {
  return KEY_SCOPES.some((each) => each === text)
}
