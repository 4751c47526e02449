'use client'

import { LARGEST_FILE, MOST_FILES } from '@/core/quote/quote'
import { NO_ANSWER } from '@/ui/format/no-answer'
import { formatFileSize } from '@/ui/format/file-size'
import { useState } from 'react'
import { ChooseFile } from '../frame/choose-file'

/** A file that waits for the request it goes with. */
export interface AskFile {
  readonly id: string
  readonly name: string
  readonly size: number
}

interface AskFilesProps {
  readonly files: readonly AskFile[]
  readonly onChange: (change: (files: readonly AskFile[]) => readonly AskFile[]) => void
}

/** Files that say more than words: a drawing, a list, a photograph of what was bought before. */
export function AskFiles({ files, onChange }: AskFilesProps) {
  const [problem, setProblem] = useState('')
  const [sending, setSending] = useState('')
  async function add(file: File): Promise<void> {
    setProblem('')
    if (file.size > LARGEST_FILE) return setProblem(`“${file.name}” is larger than 5 MB. Send a smaller one.`)
    setSending(file.name)
    const sent = await send(file).catch(() => ({ problem: NO_ANSWER }))
    setSending('')
    if ('problem' in sent) setProblem(sent.problem)
    else onChange((before) => [...before, sent])
  }
  return (
    <div className="min-w-0">
      <ul aria-label="Files that go with the request">
        {files.map(({ id, name, size }) => (
          <li key={id} className="flex items-baseline gap-2 py-0.5">
            <span className="min-w-0 truncate">{name}</span>
            <span className="shrink-0 text-xs text-soft">{formatFileSize(size)}</span>
            <button
              type="button"
              className="shrink-0 text-xs underline underline-offset-2"
              aria-label={`Leave out ${name}`}
              onClick={() => onChange((before) => before.filter((each) => each.id !== id))}
            >
              leave out
            </button>
          </li>
        ))}
      </ul>
      {sending !== '' && (
        <p role="status" className="text-soft">
          Sending {sending} …
        </p>
      )}
      {files.length < MOST_FILES && sending === '' && (
        <ChooseFile
          label={files.length === 0 ? 'Attach a file' : 'Attach another file'}
          accept=".pdf,.png,.jpg,.jpeg,.webp,.xlsx,.docx,.csv,.txt"
          onFile={(file) => void add(file)}
        />
      )}
      {files.length === 0 && sending === '' && (
        <span className="block text-xs text-soft">
          A drawing, a list or a photograph: PDF, PNG, JPEG, XLSX, DOCX, CSV or text, at most 5 MB
        </span>
      )}
      {problem && (
        <p role="alert" className="text-error">
          {problem}
        </p>
      )}
    </div>
  )
}

async function send(file: File): Promise<AskFile | { readonly problem: string }> {
  const response = await fetch(`/api/shop/quote-files?name=${encodeURIComponent(file.name)}`, {
    method: 'POST',
    headers: { 'content-type': 'application/octet-stream' },
    body: file,
  })
  const answer = (await response.json()) as AskFile | { readonly error: { readonly message: string } }
  return 'error' in answer ? { problem: answer.error.message } : answer
}
