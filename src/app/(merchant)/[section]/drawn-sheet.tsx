import { lookFrom } from '@/server/engine/look-from'
import { loadSheet, type SheetWanted } from '@/sheet/record/load-sheet'
import { RecordSheet } from '@/sheet/record/record-sheet'
import type { EditableKind } from '@/sheet/record/sections'
import { parseTexts } from '@/ui/frame/texts-url'
import { parseVantage, serializeVantage } from '@/ui/frame/vantage-url'
import type { ReactNode } from 'react'
import { SHEETS } from './sheets'

/** The sheet of a record, or of one that is being made; `null` when there is no such record. */
export async function drawnSheet(
  kind: EditableKind,
  wanted: Pick<SheetWanted, 'label' | 'copyOf'>,
  search: Readonly<Record<string, string>>,
): Promise<ReactNode> {
  const fields = new URLSearchParams(search)
  const vantage = parseVantage(fields)
  const sheet = SHEETS[kind]
  const loaded = await loadSheet(
    await lookFrom(vantage),
    kind,
    { ...wanted, texts: parseTexts(fields) },
    sheet,
  )
  if (!loaded) return null
  const { main, side, actions, hasOwnHistory = false, summary = '' } = await sheet.effect(loaded)
  return (
    <RecordSheet
      key={`${kind} ${loaded.view.id} ${serializeVantage(vantage)}`}
      view={loaded.view}
      main={main}
      side={side}
      summary={summary}
      actions={actions}
      hasOwnHistory={hasOwnHistory}
    />
  )
}
