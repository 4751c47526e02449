/** A segment that may fill parts of sets: how many whole units it has, and which parts it fits. */
export interface Candidate {
  readonly units: number
  readonly fits: readonly boolean[]
}

/** How many units of each candidate go to each part. */
export type Filling = readonly (readonly number[])[]

/**
 * Fills parts of sets with the dearest units there are.
 *
 * Units   candidates in the order they are wanted, the dearest first; `wanted` units for each part.
 * Holds   no other filling of the parts is worth more: what parts can be filled with is a matroid, in which taking the
 *         best that fits, moving what was placed before to other parts where need be, is best (Edmonds 1971, from memory).
 * Errors  `null` when the parts cannot be filled.
 */
export function fillParts(candidates: readonly Candidate[], wanted: readonly number[]): Filling | null {
  const filling = candidates.map(() => wanted.map(() => 0))
  const free = [...wanted]
  candidates.forEach(({ units }, at) => {
    let left = units
    while (left > 0) {
      const placed = place(candidates, filling, free, at, left)
      if (placed === 0) break
      left -= placed
    }
  })
  return free.every((missing) => missing === 0) ? filling : null
}

/** Places units of one candidate, moving others along the shortest way to a part with room; gives how many. */
function place(
  candidates: readonly Candidate[],
  filling: number[][],
  free: number[],
  from: number,
  most: number,
): number {
  // How each part was come to: units of this candidate would make room by moving on from the part before.
  const cameBy = new Map<number, { readonly candidate: number; readonly before: number | null }>()
  const queue: number[] = []
  const reach = (part: number, candidate: number, before: number | null) => {
    if (cameBy.has(part) || !candidates[candidate]?.fits[part]) return
    cameBy.set(part, { candidate, before })
    queue.push(part)
  }
  free.forEach((_, part) => {
    reach(part, from, null)
  })
  for (let at = 0; at < queue.length; at += 1) {
    const part = queue[at] as number
    if ((free[part] as number) > 0) return move(filling, free, cameBy, part, most)
    filling.forEach((placed, candidate) => {
      if ((placed[part] as number) === 0) return
      free.forEach((_, next) => {
        reach(next, candidate, part)
      })
    })
  }
  return 0
}

function move(
  filling: number[][],
  free: number[],
  cameBy: ReadonlyMap<number, { readonly candidate: number; readonly before: number | null }>,
  end: number,
  most: number,
): number {
  let moved = Math.min(most, free[end] as number)
  for (let part = end; ;) {
    const { candidate, before } = cameBy.get(part) as { candidate: number; before: number | null }
    if (before === null) break
    moved = Math.min(moved, filling[candidate]?.[before] as number)
    part = before
  }
  for (let part: number | null = end; part !== null;) {
    const { candidate, before } = cameBy.get(part) as { candidate: number; before: number | null }
    const placed = filling[candidate] as number[]
    placed[part] = (placed[part] as number) + moved
    if (before !== null) placed[before] = (placed[before] as number) - moved
    part = before
  }
  free[end] = (free[end] as number) - moved
  return moved
}
