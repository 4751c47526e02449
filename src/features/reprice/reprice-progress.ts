/** What came of putting amounts into a draft. */
export type RepriceOutcome =
  | { readonly ok: true; readonly draft: string; readonly changeSet: number; readonly count: number }
  | { readonly ok: false; readonly problem: string }

/** How far it has come: so many of so many records. */
export interface RepriceStep {
  readonly stage: 'checking' | 'writing'
  readonly done: number
  readonly of: number
}

/** What the server says while it works, a line each; the last one is the outcome. */
export type RepriceLine = RepriceStep | RepriceOutcome

/**
 * Asks the server to put amounts into a draft, and hears how it comes on. Aborting the signal calls it off.
 *
 * Errors  rejects where the server cannot be reached or breaks off, or when the signal was aborted: then nothing was put in.
 */
export async function askToPut(
  address: string,
  wanted: unknown,
  signal: AbortSignal,
  onStep: (step: RepriceStep) => void,
): Promise<RepriceOutcome> {
  const response = await fetch(address, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(wanted),
    signal,
  })
  if (!response.ok || !response.body) throw new Error(String(response.status))
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader()
  let rest = ''
  for (;;) {
    const { done, value } = await reader.read()
    if (done) throw new Error('broken off')
    const lines = (rest + value).split('\n')
    rest = lines.pop() ?? ''
    for (const line of lines) {
      const said = JSON.parse(line) as RepriceLine
      if ('ok' in said) return said
      onStep(said)
    }
  }
}
