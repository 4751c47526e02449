'use client'

/** Chooses a file whose rows are added. */
export function RowsFile({ onFile }: { readonly onFile: (file: File | undefined) => Promise<void> }) {
  return (
    <label className="mt-2 inline-block cursor-pointer underline underline-offset-2 focus-within:outline-2">
      Add the rows of a file (CSV or XLSX)
      <input
        type="file"
        accept=".csv,.xlsx,text/csv"
        className="sr-only"
        onChange={(event) => {
          void onFile(event.target.files?.[0])
          event.target.value = ''
        }}
      />
    </label>
  )
}
