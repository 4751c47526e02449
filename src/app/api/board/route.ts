import { merchantRoute } from '@/server/session/permit'
import { parseBoardFilter } from '@/features/board/rows/board-url'
import { BLOCK_SIZE } from '@/features/board/board-view'
import { loadBoardBlock } from '@/features/board/load-board'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import { type NextRequest, NextResponse } from 'next/server'

const MOST_PRODUCTS = 400

/** Rows of the board: `count` products from one on. */
export const GET = merchantRoute('prices:look', async (request: NextRequest) => {
  const fields = request.nextUrl.searchParams
  const numbers = { from: 0, count: BLOCK_SIZE }
  for (const name of ['from', 'count'] as const) {
    const text = fields.get(name)
    const number = text === null ? numbers[name] : Number(text)
    if (!Number.isSafeInteger(number) || number < 0)
      return NextResponse.json({ error: `${name} “${text}” is not a whole number from 0` }, { status: 400 })
    numbers[name] = number
  }
  const requestContext = await lookFrom(parseVantage(fields))
  const count = Math.min(numbers.count, MOST_PRODUCTS)
  return NextResponse.json(
    await loadBoardBlock(requestContext, parseBoardFilter(fields), numbers.from, count),
  )
})
