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
  mock('next/headers', () => ({ headers: async () => new Headers(headers()) }))
  mock('next/navigation', () => ({ redirect: () => undefined, notFound: () => undefined }))
}
