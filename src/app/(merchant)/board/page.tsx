import { merchantPage } from '@/server/session/permit'
import { Board } from '@/features/board/board'
import { parseBoardFilter } from '@/features/board/rows/board-url'
import { loadBoard } from '@/features/board/load-board'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Board' }

interface BoardPageProps {
  readonly searchParams: Promise<Record<string, string>>
}

export default merchantPage('prices:look', async ({ searchParams }: BoardPageProps) => {
  const fields = new URLSearchParams(await searchParams)
  const vantage = parseVantage(fields)
  const filter = parseBoardFilter(fields)
  const view = await loadBoard(await lookFrom(vantage), filter)
  return <Board title="Board" view={view} filter={filter} />
})
