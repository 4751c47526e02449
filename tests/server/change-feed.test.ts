import {
  BEGINNING,
  changeLines,
  changesBehind,
  type FedChange,
  feedPositionText,
  parseFeedPosition,
} from '@/server/changes/change-feed'
import { commit } from '@/server/changes/commit'
import { currentInstant } from '@/server/clock'
import { liveView, revisionOf } from '@/server/views/view'
import { demoSteppe } from './demo-steppe'

const demo = demoSteppe()

async function renameFrames(name: string): Promise<void> {
  const view = liveView(demo.current)
  const before = [...view.prepared.store.category.values()].find(({ code }) => code === 'frames')!
  const outcome = await commit(
    view,
    [
      {
        kind: 'category',
        id: before.id,
        seen: revisionOf(view, 'category', before.id),
        after: { ...before, name },
      },
    ],
    { author: 'Orla', note: 'test', at: currentInstant() },
  )
  expect(outcome.ok).toBe(true)
}

test('read page by page, nothing is left out and nothing comes twice, whatever the size of the page', async () => {
  const steppe = demo.current
  const all = await changesBehind(steppe, BEGINNING, 100_000)
  expect(all.length).toBeGreaterThan(500)
  for (const size of [97, 500]) {
    const read: FedChange[] = []
    for (let behind = BEGINNING; ;) {
      const page = await changesBehind(steppe, behind, size)
      read.push(...page)
      const last = page.at(-1)
      if (!last) break
      behind = parseFeedPosition(feedPositionText(last))!
    }
    expect(read).toEqual(all)
  }
})

test('whoever goes on from where they were gets what was changed since, with what it was before', async () => {
  const steppe = demo.current
  const seen = parseFeedPosition(String(steppe.lastChangeSet))!
  expect(await changesBehind(steppe, seen, 10)).toEqual([])
  await renameFrames('Frames and boxes')
  expect(await changesBehind(steppe, seen, 10)).toMatchObject([
    {
      ...{ kind: 'category', author: 'Orla', note: 'test', undoes: null },
      ...{ before: { name: 'Frames' }, after: { name: 'Frames and boxes' } },
    },
  ])
})

test('the history as JSON Lines is the same, a change a line', async () => {
  const steppe = demo.current
  let text = ''
  for await (const piece of changeLines(steppe, BEGINNING, 100)) text += piece
  const lines = text.trimEnd().split('\n')
  expect(lines.map((line) => JSON.parse(line) as unknown)).toEqual(
    await changesBehind(steppe, BEGINNING, 100_000),
  )
})

test.each(['', 'x', '-1', '1.', '1.2.3', '1e3', '9'.repeat(12)])('“%s” is no position', (text) =>
  expect(parseFeedPosition(text)).toBeNull(),
)
