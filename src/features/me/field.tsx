interface FieldProps {
  readonly label: string
  readonly problem: string | null
  readonly autoComplete: string
  readonly name?: string
  readonly isPassword?: boolean
  readonly longest?: number
}

/** What was typed is read by its name; what is wrong with it stands below. */
export function Field({
  label,
  problem,
  autoComplete,
  name = 'typed',
  isPassword = false,
  longest = 200,
}: FieldProps) {
  return (
    <label className="block pt-2">
      <span className="text-soft">{label}</span>
      <input
        className="mt-0.5 block w-64 border border-base-300 bg-lifted px-2 py-1 aria-[invalid=true]:border-error"
        name={name}
        maxLength={longest}
        type={isPassword ? 'password' : 'text'}
        autoComplete={autoComplete}
        aria-invalid={problem !== null}
        required
      />
      {problem && (
        <span role="alert" className="text-error">
          {problem}
        </span>
      )}
    </label>
  )
}
