const NAMED = 3

/** The first few names and how many more there are: "Frames, Jars, Lids and 4 more". `all` counts them where not all are given. */
export function someOf(names: readonly string[], all = names.length): string {
  const first = names.slice(0, NAMED)
  const more = all - first.length
  return more > 0 ? `${first.join(', ')} and ${more} more` : first.join(', ')
}
