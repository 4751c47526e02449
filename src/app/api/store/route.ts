import { documentFaults } from '@/features/imports/document-faults'
import { currentInstant } from '@/server/clock'
import { textStream } from '@/server/doors/text-stream'
import { refuse } from '@/server/doors/with-store'
import { getSteppe } from '@/server/engine/steppe'
import { importDocument } from '@/server/exchange/import-document'
import { readBody } from '@/server/exchange/read-body'
import { documentText } from '@/server/exchange/store-document'
import { machineRoute } from '@/server/session/permit'
import { currentAuthor } from '@/server/session/author'
import { readStock } from '@/server/stock/stock-levels'
import { type NextRequest, NextResponse } from 'next/server'

/** As large as a store of a million lines. */
const LARGEST_DOCUMENT = 1_000_000_000

const JSON_TEXT = { 'content-type': 'application/json' }

/** The whole configuration as one document, on request (`?stock=true`) with what is on hand; its ETag says which state of the store it is, and who has that reads nothing. */
export const GET = machineRoute<NextRequest>(
  { scope: 'store:read', permission: 'store:export' },
  async (request) => {
    const steppe = await getSteppe()
    const store = steppe.prepared?.store ?? steppe.broken?.store
    if (!store) return refuse(409, 'not-set-up', 'This store has not been set up yet.', etag(0))
    // Stock moves without a change of the store: whoever wants it says so, and always gets it as it is.
    if (request.nextUrl.searchParams.get('stock') === 'true')
      return new Response(textStream(documentText(store, await readStock(steppe.database))), {
        headers: JSON_TEXT,
      })
    const headers = { ...JSON_TEXT, ...etag(steppe.lastChangeSet) }
    if (request.headers.get('if-none-match') === headers.etag)
      return new Response(null, { status: 304, headers: etag(steppe.lastChangeSet) })
    return new Response(textStream(documentText(store)), { headers })
  },
)

/** Makes the store what a document says, if it is still in the state that `If-Match` names. */
export const PUT = machineRoute<NextRequest>(
  { scope: 'store:write', permission: 'live:edit' },
  async (request) => {
    const seen = request.headers.get('if-match')
    if (seen === null)
      return refuse(
        428,
        'if-match-missing',
        'Send If-Match with the ETag of the document this one was made from (GET /api/store), or * to write whatever is there.',
      )
    const revision = seen === '*' ? null : Number(/^"(\d+)"$/.exec(seen)?.[1] ?? Number.NaN)
    const body = await readBody(request, LARGEST_DOCUMENT)
    if (!body.ok) return NextResponse.json({ errors: documentFaults([body.error]) }, { status: body.status })
    const steppe = await getSteppe()
    const note = { author: await currentAuthor(), at: currentInstant() }
    const outcome = await importDocument(steppe, body.value, note, revision)
    const headers = etag(steppe.lastChangeSet)
    if (outcome.ok) return NextResponse.json({ changed: outcome.changed }, { headers })
    const [first] = outcome.errors
    const status = first?.code === 'stale' ? 412 : first?.code === 'disk-full' ? 507 : 422
    return NextResponse.json({ errors: documentFaults(outcome.errors) }, { status, headers })
  },
)

function etag(changeSet: number): { readonly etag: string } {
  return { etag: `"${changeSet}"` }
}
