import { Board } from '@/features/board/board'
import { parseBoardFilter, serializeBoardFilter } from '@/features/board/board-url'
import { loadBoard } from '@/features/board/load-board'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage, serializeVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Board' }

interface BoardPageProps {
  readonly searchParams: Promise<Record<string, string>>
}

export default async function BoardPage({ searchParams }: BoardPageProps) {
  const fields = new URLSearchParams(await searchParams)
  const vantage = parseVantage(fields)
  const filter = parseBoardFilter(fields)
  const view = loadBoard(await lookFrom(vantage), filter)
  // The board keeps rows it has read; another vantage or filter starts it afresh.
  return (
    <Board key={`${serializeVantage(vantage)}|${serializeBoardFilter(filter)}`} view={view} filter={filter} />
  )
}
