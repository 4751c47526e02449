const HERE = 'http://shop.invalid'

/** A page of the shop as given, or its front: resolved first, so that no detour through ".." or another host leads out. */
export function insideShop(page: string): string {
  const target = URL.canParse(page, HERE) ? new URL(page, HERE) : null
  return target?.origin === HERE && /^\/shop(\/|$)/.test(target.pathname)
    ? `${target.pathname}${target.search}`
    : '/shop'
}
