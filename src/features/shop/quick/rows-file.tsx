'use client'

import { ChooseFile } from '../frame/choose-file'

/** Chooses a file whose rows are added. */
export function RowsFile({ onFile }: { readonly onFile: (file: File | undefined) => Promise<void> }) {
  return (
    <ChooseFile
      label="Add the rows of a file (CSV or XLSX)"
      accept=".csv,.xlsx,text/csv"
      className="mt-2"
      onFile={(file) => void onFile(file)}
    />
  )
}
