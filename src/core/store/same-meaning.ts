/**
 * Whether two plain values say the same, whatever order the fields of their objects stand in: a database and a document
 * each have an order of their own.
 */
export function meansTheSame(left: unknown, right: unknown): boolean {
  if (left === right) return true
  if (left === null || right === null || typeof left !== 'object' || typeof right !== 'object') return false
  if (Array.isArray(left) || Array.isArray(right))
    return (
      Array.isArray(left) &&
      Array.isArray(right) &&
      left.length === right.length &&
      left.every((each, at) => meansTheSame(each, right[at]))
    )
  const [mine, theirs] = [left, right] as readonly Readonly<Record<string, unknown>>[]
  const fields = Object.keys(left)
  return (
    fields.length === Object.keys(right).length &&
    fields.every((field) => Object.hasOwn(right, field) && meansTheSame(mine?.[field], theirs?.[field]))
  )
}
