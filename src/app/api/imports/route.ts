import { merchantRoute } from '@/server/session/permit'
import { receiveFile } from '@/features/imports/receive-file'
import { readBytes } from '@/server/exchange/read-body'
import { type NextRequest, NextResponse } from 'next/server'

const LARGEST_FILE = 64 * 2 ** 20

/** Takes a CSV or XLSX file to be imported; what it is for stands in the address, the file is the body. */
export const POST = merchantRoute('live:edit', async (request: NextRequest) => {
  const bytes = await readBytes(request, LARGEST_FILE)
  if (!bytes)
    return NextResponse.json(
      { ok: false, problem: 'The file is larger than 64 MB. Split it.' },
      { status: 413 },
    )
  const outcome = await receiveFile(request.nextUrl.searchParams, bytes)
  return NextResponse.json(outcome, { status: outcome.ok ? 201 : 422 })
})
