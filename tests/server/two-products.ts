import type { Change } from '@/core/store/store'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import { commit } from '@/server/changes/commit'
import type { ChangeRequest } from '@/server/changes/weigh'
import { openSteppe } from '@/server/engine/steppe'
import { liveTarget } from '@/server/views/view'

const product = (id: string) => ({
  ...RECORD_DEFAULTS.product,
  id,
  code: id,
  name: id,
  categories: ['all'],
  basePrice: '1',
})
const RECORDS: readonly [Change['kind'], { id: string }][] = [
  [
    'settings',
    { ...RECORD_DEFAULTS.settings, id: 'settings', currency: 'EUR', priceDigits: 2 } as { id: string },
  ],
  ['category', { ...RECORD_DEFAULTS.category, id: 'all', code: 'all', name: 'All' } as { id: string }],
  ['product', product('product-a')],
  ['product', product('product-b')],
]

/** Puts the two products that the committer prices into an empty directory, at 1 each. */
export async function fillForCommits(directory: string): Promise<void> {
  const steppe = await openSteppe(directory)
  const requests = RECORDS.map(([kind, after]) => ({ kind, id: after.id, seen: null, after }))
  const outcome = await commit(liveTarget(steppe), requests as unknown as ChangeRequest[], {
    ...{ author: 'Test', note: 'set up', at: new Date(0) },
  })
  await steppe.close()
  if (!outcome.ok) throw new Error(outcome.code)
}
