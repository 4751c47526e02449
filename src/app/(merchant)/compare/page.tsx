import { merchantPage } from '@/server/session/permit'
import { Board } from '@/features/board/board'
import { parseBoardFilter } from '@/features/board/rows/board-url'
import { comparedColumns } from '@/features/board/columns/compared-columns'
import { loadBoard } from '@/features/board/load-board'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Compare' }

interface ComparePageProps {
  readonly searchParams: Promise<Record<string, string>>
}

/** Two vantages side by side over the same products; more can be held beside them. */
export default merchantPage('prices:look', async ({ searchParams }: ComparePageProps) => {
  const fields = new URLSearchParams(await searchParams)
  const vantage = parseVantage(fields)
  const requestContext = await lookFrom(vantage)
  const chosen = parseBoardFilter(fields)
  const columns =
    chosen.columns.length > 0 ? chosen.columns : comparedColumns(requestContext.prepared.store, vantage)
  const filter = { ...chosen, columns }
  return <Board title="Compare" view={await loadBoard(requestContext, filter)} filter={filter} />
})
