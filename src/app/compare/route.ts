import { comparedColumns } from '@/features/board/compared-columns'
import { serializeBoardFilter } from '@/features/board/board-url'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage, withVantage } from '@/ui/frame/vantage-url'
import { redirect } from 'next/navigation'
import type { NextRequest } from 'next/server'

/** Two vantages side by side on the board; more can be held beside them there. */
export async function GET(request: NextRequest): Promise<never> {
  const vantage = parseVantage(request.nextUrl.searchParams)
  const { prepared } = await lookFrom(vantage)
  const columns = comparedColumns(prepared.store, vantage)
  const filter = serializeBoardFilter({ category: null, text: '', only: null, columns })
  redirect(withVantage(`/board?${filter}`, vantage))
}
