'use client'

import { createContext, type ReactNode, use } from 'react'

/** How what is drawn under a sentence changes a field of it; resolves to what is wrong, or `null`. */
type EditField = (field: string, text: string) => Promise<string | null>

const Edit = createContext<EditField | null>(null)

export function FieldEditProvider({
  edit,
  children,
}: {
  /** `null` where nothing can be changed, as when looking at a past day. */
  readonly edit: EditField | null
  readonly children: ReactNode
}) {
  return <Edit value={edit}>{children}</Edit>
}

export function useFieldEdit(): EditField | null {
  return use(Edit)
}
