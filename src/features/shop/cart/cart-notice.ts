/** What the address of the cart says of what was just done. */
export interface CartNotice {
  readonly wrong?: string
  readonly moved?: string
  readonly code?: string
  readonly left?: string
  readonly short?: string
}

/** What went wrong with what was just done; empty where nothing did. */
export function noticeText({ wrong, moved, code, left, short }: CartNotice): string {
  if (wrong) return `“${wrong}” is not a quantity. Enter a number above zero, such as 12.`
  if (moved) return 'The cart was changed in another window. Check it once more.'
  if (code === 'wrong') return 'This code is not valid here and now. Check how it is written.'
  if (code === 'waits') return 'Too many codes were not valid. Try again in an hour.'
  if (short)
    return 'Somebody ordered the last of something in your cart a moment ago. Nothing was ordered yet.'
  if (!left || !/^\d{1,4}$/.test(left)) return ''
  return left === '1'
    ? 'One line of that order is no longer available to you, and was left out.'
    : `${left} lines of that order are no longer available to you, and were left out.`
}
