import { parseBoardFilter } from '@/features/board/board-url'
import { BLOCK_SIZE } from '@/features/board/board-view'
import { loadBoardBlock } from '@/features/board/load-board'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import { type NextRequest, NextResponse } from 'next/server'

/** Rows of the board, a block of products at a time. */
export async function GET(request: NextRequest): Promise<NextResponse> {
  const fields = request.nextUrl.searchParams
  const block = Number(fields.get('block') ?? '0')
  if (!Number.isSafeInteger(block) || block < 0) {
    return NextResponse.json(
      { error: `block “${fields.get('block')}” is not a whole number from 0` },
      { status: 400 },
    )
  }
  const outlook = await lookFrom(parseVantage(fields))
  return NextResponse.json(loadBoardBlock(outlook, parseBoardFilter(fields), block * BLOCK_SIZE, BLOCK_SIZE))
}
