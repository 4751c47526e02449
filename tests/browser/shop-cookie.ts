/** Signs in to the shop as a browser without scripts does, by the forms of its pages, and gives the cookie it got. */

/** The cookie of an account, by its code. */
export function accountCookie(url: string, code: string): Promise<string> {
  return submit(`${url}/shop/sign-in`, { as: `account:${code}` })
}

/** The cookie of a guest who typed a passcode. */
export function passcodeCookie(url: string, word: string): Promise<string> {
  return submit(`${url}/shop/gate`, { word })
}

async function submit(page: string, fields: Readonly<Record<string, string>>): Promise<string> {
  const html = await (await fetch(page)).text()
  const [name = '', value = ''] = Object.entries(fields)[0] ?? []
  const form = [...html.matchAll(/<form[^>]*>.*?<\/form>/gs)]
    .map(([text]) => text)
    .find((text) => text.includes(`name="${name}"`) && (name !== 'as' || text.includes(`value="${value}"`)))
  const action = /name="(\$ACTION_ID_[^"]+)"/.exec(form ?? '')?.[1]
  if (!action) throw new Error(`${page} has no form for ${name}`)
  const body = new FormData()
  body.set(action, '')
  for (const [field, text] of Object.entries(fields)) body.set(field, text)
  const answer = await fetch(page, {
    method: 'POST',
    body,
    redirect: 'manual',
    headers: { origin: new URL(page).origin },
  })
  const cookie = answer.headers
    .getSetCookie()
    .map((each) => each.split(';')[0] ?? '')
    .find((each) => /^steppe-shop=.+/.test(each))
  if (!cookie) throw new Error(`${page} answered ${answer.status} and gave no cookie`)
  return cookie
}
