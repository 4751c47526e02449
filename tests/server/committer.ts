import { commit } from '@/server/changes/commit'
import type { ChangeRequest } from '@/server/changes/weigh'
import { openSteppe } from '@/server/engine/steppe'
import { liveView, liveTarget, revisionOf } from '@/server/views/view'

/**
 * A process that commits without pause and says after each commit which number is safe, until it is
 * killed. Both products always get the same price: a torn commit would show.
 */
async function main(directory: string, from: number): Promise<never> {
  const steppe = await openSteppe(directory)
  for (let number = from; ; number += 1) {
    const { store } = liveView(steppe).prepared
    const requests = ['product-a', 'product-b'].map((id) => {
      const record = store.product.get(id)
      return {
        kind: 'product',
        id,
        seen: revisionOf(liveTarget(steppe), 'product', id),
        after: { ...record, basePrice: String(number) },
      }
    })
    const outcome = await commit(liveTarget(steppe), requests as ChangeRequest[], {
      author: 'Committer',
      note: `${number}`,
      at: new Date(number),
    })
    if (!outcome.ok) throw new Error(outcome.code)
    process.stdout.write(`${number}\n`)
  }
}

main(process.argv[2] as string, Number(process.argv[3])).catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
