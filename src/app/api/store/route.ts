import { getPrepared, getSteppe } from '@/server/engine/steppe'
import { importDocument } from '@/server/exchange/import-document'
import { toDocument } from '@/server/exchange/store-document'
import { readBody } from '@/server/exchange/read-body'
import { currentAuthor } from '@/server/session/author'
import { type NextRequest, NextResponse } from 'next/server'
import { currentInstant } from '@/server/clock'

/** The whole configuration as one document. */
export async function GET(): Promise<NextResponse> {
  return NextResponse.json(toDocument(getPrepared(await getSteppe()).store))
}

/** Makes the store what a document says. */
export async function PUT(request: NextRequest): Promise<NextResponse> {
  const body = await readBody(request)
  if (!body.ok) return NextResponse.json({ errors: [body.error] }, { status: 400 })
  const steppe = await getSteppe()
  const outcome = await importDocument(steppe, body.value, { author: currentAuthor(), at: currentInstant() })
  return outcome.ok
    ? NextResponse.json({ changed: outcome.changed })
    : NextResponse.json({ errors: outcome.errors }, { status: 422 })
}
