type Jest = typeof jest

/** The `jest` of a module of its own, which has no global of this name. */
export function jestOf(meta: ImportMeta): Jest {
  return (meta as unknown as { readonly jest: Jest }).jest
}

/** What the framework gives a server action while it runs; `headers` are those of the request it came with. */
export function standInForFramework(jest: Jest, headers: () => Record<string, string> = () => ({})): void {
  const mock = (name: string, make: () => unknown) =>
    (
      jest as unknown as { unstable_mockModule: (name: string, make: () => unknown) => void }
    ).unstable_mockModule(name, make)
  mock('next/cache', () => ({ refresh: () => undefined }))
  mock('next/headers', () => ({
    headers: async () => new Headers({ ...AT_THIS_MACHINE, ...headers() }),
    cookies: async () => ({ get: () => undefined, set: () => undefined, delete: () => undefined }),
  }))
  mock('next/navigation', () => ({ redirect: () => undefined, ...TURNED_AWAY }))
}

/** Where nobody has to sign in, and whoever comes by this name is the owner. */
const AT_THIS_MACHINE = { host: 'localhost' }

/** What ends a request that may not, or finds nothing. */
class TurnedAway extends Error {}

const turnAway = (what: string) => () => {
  throw new TurnedAway(what)
}

const TURNED_AWAY = {
  notFound: turnAway('404'),
  forbidden: turnAway('403'),
  unauthorized: turnAway('401'),
}

/** What a redirect does in an action: nothing of it runs any more. */
class Redirected extends Error {
  constructor(readonly to: string) {
    super(`led to ${to}`)
  }
}

/** Cookies of one browser after the other: whoever acts next is chosen by name. */
export interface Browsers {
  use(name: string): void
}

/**
 * What the framework gives an action of the shop: the cookies of a browser, and redirects that end it. `side` is where the request came
 * to.
 */
export function standInForShop(jest: Jest, side: () => 'shop' | 'merchant'): Browsers {
  const jars = new Map<string, Map<string, string>>()
  let now = ''
  const jar = () => {
    const known = jars.get(now) ?? new Map<string, string>()
    jars.set(now, known)
    return known
  }
  const mock = (name: string, make: () => unknown) =>
    (
      jest as unknown as { unstable_mockModule: (name: string, make: () => unknown) => void }
    ).unstable_mockModule(name, make)
  mock('next/cache', () => ({ refresh: () => undefined }))
  mock('next/headers', () => ({
    headers: async () =>
      new Headers({
        ...{ ...AT_THIS_MACHINE, 'x-steppe-side': side() },
        cookie: [...jar()].map(([name, value]) => `${name}=${encodeURIComponent(value)}`).join('; '),
      }),
    cookies: async () => ({
      get: (name: string) => (jar().has(name) ? { name, value: jar().get(name) } : undefined),
      set: (name: string, value: string) => jar().set(name, value),
      delete: (name: string) => jar().delete(name),
    }),
  }))
  const redirect = (to: string) => {
    throw new Redirected(to)
  }
  mock('next/navigation', () => ({ redirect, ...TURNED_AWAY, notFound: () => redirect('404') }))
  return {
    use(name) {
      now = name
    },
  }
}

/** Where an action leads; `null` where it ends by itself. */
export async function leadsTo(act: Promise<unknown>): Promise<string | null> {
  try {
    await act
    return null
  } catch (error) {
    if (error instanceof Redirected) return error.to
    throw error
  }
}
