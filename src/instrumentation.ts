/** Called by the framework once when the server starts. */
export async function register(): Promise<void> {
  if (process.env['NEXT_RUNTIME'] !== 'nodejs') return
  const { makeOfferPaper, makePaper } = await import('./features/documents/make-paper')
  const { writeMailWith } = await import('./features/mails/write-mail')
  const { start } = await import('./server/start')
  // Whoever asks meanwhile is told how far it is.
  void start(
    writeMailWith({
      ofOrder: (order, prepared, wanted) => makePaper(order, prepared.store, wanted),
      ofQuote: makeOfferPaper,
    }),
  )
}

/** Called by the framework with whatever nobody caught while it answered. */
export async function onRequestError(
  error: unknown,
  request: {
    readonly path: string
    readonly headers: Readonly<Record<string, string | string[] | undefined>>
  },
): Promise<void> {
  if (process.env['NEXT_RUNTIME'] !== 'nodejs') return
  const { log } = await import('./server/operations/log')
  const [path] = request.path.split('?')
  log.error({ err: error, request: request.headers['x-request-id'], path }, 'nobody caught this')
}
