import {
  currentUndoStacks,
  inTurn,
  moveBetweenStacks,
  setUndoStacks,
} from '@/features/board/edits/undo-stacks'

test('undo and redo move the latest change between the stacks, as change sets of their own', () => {
  const edited = { done: [4, 5], undone: [] }
  const undone = moveBetweenStacks(edited, 'undo', 6)
  expect(undone).toEqual({ done: [4], undone: [6] })
  expect(moveBetweenStacks(undone, 'redo', 7)).toEqual({ done: [4, 7], undone: [] })
})

test('writes wait for each other, so that two quick undos take two different changes back', async () => {
  setUndoStacks({ done: [1, 2, 3], undone: [] })
  const takenBack: number[] = []
  const undo = (slow: number) =>
    inTurn(async () => {
      const before = currentUndoStacks()
      takenBack.push(before.done.at(-1) as number)
      await new Promise((resolve) => setTimeout(resolve, slow))
      setUndoStacks(moveBetweenStacks(before, 'undo', 10 + takenBack.length))
    })
  await Promise.all([undo(20), undo(1)])
  expect(takenBack).toEqual([3, 2])
  expect(currentUndoStacks()).toEqual({ done: [1], undone: [11, 12] })
})

test('a write that fails does not hold up the next', async () => {
  await expect(inTurn(() => Promise.reject(new Error('no server')))).rejects.toThrow('no server')
  expect(await inTurn(() => Promise.resolve('done'))).toBe('done')
})
