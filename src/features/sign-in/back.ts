/** Where signing in leads: a page of this server, and never a page of the shop or another site's. */
export function backTo(text: string): string {
  const isInside = /^\/(?![/\\])[^\s\\]*$/.test(text) && text.length <= 2_000
  return isInside && !/^\/(sign-in|first-start|api)(\/|$|\?)/.test(text) ? text : '/board'
}
