import { commit } from '@/server/changes/commit'
import type { ChangeRequest } from '@/server/changes/weigh'
import { beginDraft } from '@/server/drafts/draft-rows'
import { publishDraft } from '@/server/drafts/publish-draft'
import { openSteppe } from '@/server/engine/steppe'
import { revisionOf } from '@/server/views/view'
import { getView } from '@/server/views/views'

/**
 * A process that begins drafts, edits them and publishes them without pause, and says after each publication which one is
 * safe, until it is killed. Both products always get the same price in a draft: a torn publication would show.
 */
async function main(directory: string, from: number): Promise<never> {
  const steppe = await openSteppe(directory)
  for (let number = from; ; number += 1) {
    const by = { author: 'Publisher', at: new Date(number) }
    const { code } = await beginDraft(steppe.database, { name: `draft ${number}`, ...by })
    for (const ids of [['product-a'], ['product-b']]) {
      const view = await getView(steppe, { kind: 'draft', code })
      const requests = ids.map((id) => ({
        kind: 'product',
        id,
        seen: revisionOf(view, 'product', id),
        after: { ...view.prepared.store.product.get(id), basePrice: String(number) },
      }))
      const edited = await commit(view, requests as ChangeRequest[], { ...by, note: `${number}` })
      if (!edited.ok) throw new Error(edited.code)
    }
    const outcome = await publishDraft(steppe, code, { ...by, reason: `${number}` })
    if (!outcome.ok) throw new Error(outcome.code)
    process.stdout.write(`${number}\n`)
  }
}

main(process.argv[2] as string, Number(process.argv[3])).catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
