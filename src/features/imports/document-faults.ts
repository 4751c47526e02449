import type { DocumentError } from '@/server/exchange/store-document'
import { faultWords } from '@/ui/format/refusal-sentence'

/** A fault of a document with what it means in words. */
export interface DocumentFault extends DocumentError {
  readonly message: string
}

/** Faults as a person reads them: where, what was found, what would be right. */
export function documentFaults(errors: readonly DocumentError[]): readonly DocumentFault[] {
  return errors.map((error) => ({
    ...error,
    message: `${error.where || 'The document'}: ${faultWords(error)}`,
  }))
}
