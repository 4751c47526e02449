import { formatFileSize } from './file-size'

interface FileLinksProps {
  readonly files: readonly { readonly id: string; readonly name: string; readonly size: number }[]
  /** Where the files are: each is at its id below it. */
  readonly below: string
}

/** The files that came with something, each to be kept. */
export function FileLinks({ files, below }: FileLinksProps) {
  if (files.length === 0) return null
  return (
    <ul aria-label="Files" className="flex flex-wrap gap-x-5">
      {files.map(({ id, name, size }) => (
        <li key={id}>
          <a href={`${below}/${id}`} className="link-name" download>
            {name}
          </a>{' '}
          <span className="text-xs text-soft">{formatFileSize(size)}</span>
        </li>
      ))}
    </ul>
  )
}
