import { VantageLink } from '@/ui/frame/vantage-link'
import type { TracePart } from './trace-part'

/** What decided, by name, and how. */
export function Parts({ parts }: { readonly parts: readonly TracePart[] }) {
  return parts.map(({ text, href }, at) => (
    <span key={at}>
      {at > 0 && ' '}
      {href ? (
        <VantageLink href={href} className="link-name">
          {text}
        </VantageLink>
      ) : (
        <span className={at > 0 ? 'text-soft' : ''}>{text}</span>
      )}
    </span>
  ))
}
