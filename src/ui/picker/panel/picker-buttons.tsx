/** What is wrong, and the two ways out of a picker. */
export function PickerButtons({
  problem,
  onSave,
  onCancel,
}: {
  readonly problem: string | null
  /** Left out inside a form, which is saved by submitting it. */
  readonly onSave?: () => void
  readonly onCancel: () => void
}) {
  return (
    <>
      {problem && (
        <p role="alert" className="text-xs text-error">
          {problem}
        </p>
      )}
      <div className="flex gap-2">
        <button type={onSave ? 'button' : 'submit'} className="btn btn-primary btn-sm" onClick={onSave}>
          Save
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onCancel}>
          Cancel
        </button>
      </div>
    </>
  )
}
