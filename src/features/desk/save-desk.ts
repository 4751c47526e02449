import 'server-only'

import { beginDeskOrder, saveDeskOrder } from '@/server/desk/desk-rows'
import { parseDesk } from '@/server/desk/desk-shape'
import { DiskFullError } from '@/server/database/disk-room'
import type { RequestContext } from '@/server/engine/request-context'
import { currentAuthor } from '@/server/session/author'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import type { DeskSaved } from './desk-view'
import { loadDeskBuyer, loadDeskFigures } from './load-desk'

/** Saves an order of the desk as it was typed, and says what it comes to. */
export async function saveDesk(
  context: Pick<RequestContext, 'steppe' | 'prepared' | 'now'>,
  submitted: unknown,
): Promise<DeskSaved> {
  const { steppe, prepared, now } = context
  const { number, version, content: typed } = (submitted ?? {}) as Readonly<Record<string, unknown>>
  const content = parseDesk(typed)
  const isKnown = Number.isSafeInteger(number) && Number.isSafeInteger(version)
  if (!content || (number !== null && !isKnown))
    return {
      ok: false,
      problem: 'This cannot be saved. Reload the page; what was saved before is still there.',
    }
  try {
    let saved = { number: number as number, version: (version as number) + 1 }
    if (number === null) {
      const by = { author: await currentAuthor(), at: new Date(now) }
      saved = { number: await beginDeskOrder(steppe, content, by), version: 1 }
    } else {
      const seen = { number: number as number, version: version as number }
      if (!(await saveDeskOrder(steppe, seen, { content })))
        return {
          ok: false,
          problem:
            'Somebody else changed or finished this order a moment ago. Reload to see it; what you typed is still here.',
        }
    }
    return {
      ok: true,
      ...saved,
      figures: await loadDeskFigures(steppe, prepared, content, now),
      buyer: await loadDeskBuyer(context, content),
    }
  } catch (error) {
    if (error instanceof DiskFullError) return { ok: false, problem: refusalSentence({ code: 'disk-full' }) }
    throw error
  }
}
