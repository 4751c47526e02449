/** A size in bytes as people say it: 820 bytes, 24 kB, 1.4 MB. */
export function formatFileSize(bytes: number): string {
  if (bytes < 1_000) return `${bytes} ${bytes === 1 ? 'byte' : 'bytes'}`
  if (bytes < 999_500) return `${Math.round(bytes / 1_000)} kB`
  return `${(bytes / 1_000_000).toFixed(1)} MB`
}
