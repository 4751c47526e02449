/** Whether a file begins with these bytes. */
export function startsWith(bytes: Uint8Array, ...signature: readonly number[]): boolean {
  return signature.every((byte, at) => bytes[at] === byte)
}

/**
 * What kind of picture a file is, by what is in it; `null` for anything else.
 *
 * Source  the signatures of PNG (ISO/IEC 15948), JPEG (ISO/IEC 10918-1) and WebP (RFC 9649).
 */
export function drawnAs(bytes: Uint8Array): 'png' | 'jpg' | 'webp' | null {
  if (startsWith(bytes, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return 'png'
  if (startsWith(bytes, 0xff, 0xd8, 0xff)) return 'jpg'
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, 12))
  return text.startsWith('RIFF') && text.slice(8) === 'WEBP' ? 'webp' : null
}
