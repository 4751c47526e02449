import type { OrderDocument } from '@/core/order/order'
import type { OrderEvent } from '@/core/order/order-event'
import type { OrderProblem } from '@/core/order/standing'
import { ORDER_STATE_WORDS } from '@/ui/format/order-phrases'

/** Why a step cannot be taken, and what would do. */
export function problemSentence(problem: OrderProblem, { lines }: OrderDocument): string {
  const skuOf = (line: number) => lines[line]?.sku ?? 'This line'
  switch (problem.code) {
    case 'not-now':
      return `This cannot be done with an order that is ${ORDER_STATE_WORDS[problem.state].toLowerCase()}.`
    case 'nothing-chosen':
      return 'Say how many of which line.'
    case 'no-such-line':
      return 'The order has no such line.'
    case 'not-above-zero':
      return `${skuOf(problem.line)}: ${problem.quantity} is not above zero. Leave the line empty instead.`
    case 'not-whole':
      return `${skuOf(problem.line)}: ${problem.quantity} is not a whole number, and it was bought in whole pieces.`
    case 'too-many':
      return `${skuOf(problem.line)}: you have ${problem.quantity}, and at most ${problem.most} are left.`
    case 'no-reason':
      return 'Give a reason: the buyer reads it.'
    case 'empty-note':
      return 'Type the note first.'
  }
}

/** What was done, as the history of an order says it. */
export function eventSentence({ step, document }: OrderEvent, { lines }: OrderDocument): string {
  const parts = (some: readonly { readonly line: number; readonly quantity: string }[]) =>
    some.map(({ line, quantity }) => `${quantity} × ${lines[line]?.sku ?? '?'}`).join(', ')
  switch (step.kind) {
    case 'confirm':
      return 'Confirmed'
    case 'send':
      return `Sent ${parts(step.parts)}; delivery note ${document}${step.tracking === '' ? '' : `, tracking ${step.tracking}`}`
    case 'invoice':
      return `Invoiced: invoice ${document}`
    case 'close':
      return 'Paid, and closed'
    case 'cancel':
      return `Cancelled what had not been sent: ${step.reason}`
    case 'return':
      return `Took back ${parts(step.parts)}${document === null ? '' : `; credit note ${document}`}: ${step.reason}${step.restocks ? '' : ' (not put back into stock)'}`
    case 'note':
      return step.text
  }
}
