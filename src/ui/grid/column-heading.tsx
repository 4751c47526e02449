/** A column's title over what it is based on. */
export function ColumnHeading({ title, subtitle }: { readonly title: string; readonly subtitle: string }) {
  return (
    <span className="block">
      {title}
      <span className="block truncate text-2xs leading-4 font-normal text-soft">{subtitle}</span>
    </span>
  )
}
