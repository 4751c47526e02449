import 'server-only'

/** A body in pieces, made as they are read: nothing of it is held, and who stops reading stops the work. */
export function textStream(pieces: AsyncGenerator<string>): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder()
  return new ReadableStream({
    async pull(controller) {
      const { done, value } = await pieces.next()
      if (done) controller.close()
      else controller.enqueue(encoder.encode(value))
    },
    async cancel() {
      await pieces.return(undefined)
    },
  })
}

const PIECE = 65_536

/** An array as JSON in pieces, from some of its entries at a time. */
export async function* arrayText(parts: AsyncIterable<readonly unknown[]>): AsyncGenerator<string> {
  let text = '['
  let isFirst = true
  for await (const part of parts) {
    if (part.length === 0) continue
    // An array as text, without its brackets.
    text += `${isFirst ? '' : ','}${JSON.stringify(part).slice(1, -1)}`
    isFirst = false
    if (text.length < PIECE) continue
    yield text
    text = ''
  }
  yield `${text}]`
}
