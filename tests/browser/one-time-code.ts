import { createHmac } from 'node:crypto'

const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'
const STEP_SECONDS = 30

/** The bytes that a key in base32 stands for (RFC 4648, section 6). */
function bytesOf(key: string): Buffer {
  const bits = [...key.replace(/[\s=]/g, '').toUpperCase()]
    .map((letter) => LETTERS.indexOf(letter).toString(2).padStart(5, '0'))
    .join('')
  return Buffer.from((bits.match(/.{8}/g) ?? []).map((byte) => Number.parseInt(byte, 2)))
}

/** The six digits an authenticator app shows for a key at an instant (epoch seconds; RFC 6238 with SHA-1, as RFC 4226 cuts them). */
export function oneTimeCode(key: string, at: number): string {
  const counter = Buffer.alloc(8)
  counter.writeBigUInt64BE(BigInt(Math.floor(at / STEP_SECONDS)))
  const digest = createHmac('sha1', bytesOf(key)).update(counter).digest()
  const from = (digest.at(-1) ?? 0) & 0xf
  return String((digest.readUInt32BE(from) & 0x7fff_ffff) % 1_000_000).padStart(6, '0')
}
