interface RowButtonsProps {
  readonly rows: { readonly close: () => void; readonly remove: () => void }
  readonly isNew: boolean
  readonly problem: string | null
  /** What the button that saves says. */
  readonly saves: string
}

/** What ends the form of a row: what is wrong, and what can be done. */
export function RowButtons({ rows, isNew, problem, saves }: RowButtonsProps) {
  return (
    <div className="col-span-2 flex flex-wrap items-center gap-3 pt-1">
      {problem && (
        <p role="alert" className="text-error">
          {problem}
        </p>
      )}
      <span className="ml-auto flex gap-3">
        {!isNew && (
          <button type="button" className="text-error hover:underline" onClick={rows.remove}>
            Remove
          </button>
        )}
        <button type="button" className="btn btn-sm" onClick={rows.close}>
          Cancel
        </button>
        <button type="submit" className="btn btn-primary btn-sm">
          {saves}
        </button>
      </span>
    </div>
  )
}
