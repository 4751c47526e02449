/** Says what keeps a store from being read, and how to mend it without losing anything. */
export function MendPage({ record, why }: { readonly record: string | null; readonly why: string }) {
  return (
    <main className="mx-auto max-w-xl p-8 text-sm leading-6">
      <h1 className="text-2xl font-semibold">This store cannot be read</h1>
      <p className="pt-3">
        Everything in it is still there. What stands in the way is{' '}
        <b>{record ?? 'something that could not be found out'}</b>: {why}.
      </p>
      <ol className="list-decimal pt-4 pl-5">
        <li>
          <a href="/api/store" download="store.json" className="link-name">
            Download the store as one document
          </a>
          .
        </li>
        <li>Correct that record in it.</li>
        <li>
          Send it back: <code>npm run -s steppe -- import store.json --url</code> and this address.
        </li>
      </ol>
    </main>
  )
}
