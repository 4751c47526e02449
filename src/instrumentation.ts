/** Called by the framework once when the server starts. */
export async function register(): Promise<void> {
  if (process.env['NEXT_RUNTIME'] !== 'nodejs') return
  const { makeOfferPaper, makePaper } = await import('./features/documents/make-paper')
  const { writeMailWith } = await import('./features/mails/write-mail')
  const { start } = await import('./server/start')
  await start(
    writeMailWith({
      ofOrder: (order, prepared, wanted) => makePaper(order, prepared.store, wanted),
      ofQuote: makeOfferPaper,
    }),
  )
}
