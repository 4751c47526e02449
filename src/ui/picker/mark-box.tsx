import type { Mark } from './mark'

const LOOK: Readonly<Record<Mark, string>> = {
  chosen: 'border-primary bg-primary text-primary-content',
  through: 'border-bar bg-primary/15 text-primary',
  part: 'border-bar bg-primary/15 text-primary',
  out: 'border-error text-error',
  'out-through': 'border-error/50 text-error/70',
  none: 'border-soft/70',
}
const SIGN: Readonly<Record<Mark, string>> = {
  chosen: '✓',
  through: '✓',
  part: '–',
  out: '–',
  'out-through': '–',
  none: '',
}

/** The box before a choice: filled for what was chosen itself, pale for what is in through something else. */
export function MarkBox({ mark }: { readonly mark: Mark }) {
  return (
    <span
      aria-hidden
      className={`inline-block size-4 shrink-0 rounded-[3px] border text-center text-xs leading-[14px] font-bold ${LOOK[mark]}`}
    >
      {SIGN[mark]}
    </span>
  )
}
