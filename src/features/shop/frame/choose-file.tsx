'use client'

interface ChooseFileProps {
  readonly label: string
  /** Endings and types, as browsers take them. */
  readonly accept: string
  readonly className?: string
  readonly onFile: (file: File) => void
}

/** A link that lets a file be chosen; the same file can be chosen again. */
export function ChooseFile({ label, accept, className = '', onFile }: ChooseFileProps) {
  return (
    <label
      className={`inline-block cursor-pointer underline underline-offset-2 focus-within:outline-2 ${className}`}
    >
      {label}
      <input
        type="file"
        accept={accept}
        className="sr-only"
        onChange={(event) => {
          const [file] = event.target.files ?? []
          if (file) onFile(file)
          event.target.value = ''
        }}
      />
    </label>
  )
}
