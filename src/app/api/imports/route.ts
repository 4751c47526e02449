import { receiveFile } from '@/features/imports/receive-file'
import { type NextRequest, NextResponse } from 'next/server'

/** Takes a CSV or XLSX file to be imported; what it is for stands in the address, the file is the body. */
export async function POST(request: NextRequest): Promise<NextResponse> {
  const bytes = new Uint8Array(await request.arrayBuffer())
  const outcome = await receiveFile(request.nextUrl.searchParams, bytes)
  return NextResponse.json(outcome, { status: outcome.ok ? 201 : 422 })
}
