import type { StartProgress } from '../operations/start-progress'
import type { Side } from './outer-door'
import { problem, PROBLEM_TYPE } from './problem'

/** Seconds after which whoever asked asks again. */
const AGAIN = 1

const NUMBER = new Intl.NumberFormat('en')

/** What a start is at, for the merchant. */
function startWords({ step, done, of }: StartProgress): string {
  if (step === 'opening') return 'The database is being opened.'
  if (step === 'preparing') return 'The prices are being prepared.'
  if (step === 'filling') return 'The demo store is being filled.'
  if (step === 'ready' || done === 0) return 'The store is being read.'
  const read = `${NUMBER.format(done)}${of === null ? '' : ` of ${NUMBER.format(of)}`}`
  return `The store is being read: ${read} records.`
}

/** What answers while the store is not there yet: a page that comes again by itself, or an error for whoever is no page. */
export function startingAnswer(
  progress: StartProgress,
  side: Side,
  wantsPage: boolean,
): { readonly body: string; readonly headers: Readonly<Record<string, string>> } {
  const headers = { 'retry-after': String(AGAIN), 'cache-control': 'no-store' }
  if (!wantsPage) {
    const message = 'The server is starting; ask again in a moment.'
    const body = JSON.stringify(problem(503, 'starting', message))
    return { body, headers: { ...headers, 'content-type': PROBLEM_TYPE } }
  }
  return {
    body: side === 'shop' ? shopPage() : merchantPage(progress),
    headers: { ...headers, 'content-type': 'text/html; charset=utf-8' },
  }
}

/** A visitor learns nothing of the store. */
function shopPage(): string {
  return page('One moment', 'This shop opens in a moment, and this page loads by itself.', '')
}

function merchantPage(progress: StartProgress): string {
  const { done, of } = progress
  const bar =
    of === null || of === 0 ? '<progress></progress>' : `<progress value="${done}" max="${of}"></progress>`
  return page(
    'Steppe is starting',
    `${startWords(progress)} This page loads by itself as soon as it can.`,
    bar,
  )
}

/** Nothing of the application is loaded yet, so the colours of its theme stand here again. */
function page(title: string, words: string, bar: string): string {
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="refresh" content="${AGAIN}">
<title>${title}</title>
<style>
:root { color-scheme: light dark; --paper: #faf7ef; --ink: #26231b; --green: #4f6b2a; --line: #e2d9c3 }
@media (prefers-color-scheme: dark) { :root { --paper: #1c1a15; --ink: #ebe4d2; --green: #a3c06f; --line: #3b362a } }
body { margin: 0; background: var(--paper); color: var(--ink); font: 14px/1.7 system-ui, sans-serif }
main { max-width: 65ch; margin: 0 auto; padding: 4rem 2rem }
h1 { margin: 0 0 .5rem; font-size: 1.5rem; line-height: 2rem; font-weight: 600 }
progress { display: block; width: 100%; height: .5rem; margin-top: 1rem; appearance: none; border: 0; border-radius: .25rem; overflow: hidden; background: var(--line); accent-color: var(--green) }
progress::-webkit-progress-bar { background: var(--line) }
progress::-webkit-progress-value { background: var(--green) }
</style>
</head>
<body><main role="status"><h1>${title}</h1><p>${words}</p>${bar}</main></body>
</html>
`
}
