import { serializeBoardFilter } from '@/features/board/board-url'
import { DEFAULT_VANTAGE, parseVantage, withVantage } from '@/ui/frame/vantage-url'
import { redirect } from 'next/navigation'
import type { NextRequest } from 'next/server'

/** Guests and whoever is looked as, side by side on the board; more can be held beside them there. */
export async function GET(request: NextRequest): Promise<never> {
  const vantage = parseVantage(request.nextUrl.searchParams)
  const columns = vantage.as === 'guest' ? [DEFAULT_VANTAGE] : [DEFAULT_VANTAGE, vantage]
  const filter = serializeBoardFilter({ category: null, text: '', only: null, columns })
  redirect(withVantage(`/board?${filter}`, vantage))
}
