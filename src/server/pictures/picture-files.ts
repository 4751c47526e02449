import 'server-only'

import { createHash } from 'node:crypto'
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { drawnAs } from '../doors/file-signature'
import { cleanSvg } from './clean-svg'

/** Largest picture that is taken, in bytes. */
export const LARGEST_PICTURE = 2 * 2 ** 20

const TYPES = {
  png: 'image/png',
  jpg: 'image/jpeg',
  webp: 'image/webp',
  svg: 'image/svg+xml',
} as const
type Ending = keyof typeof TYPES

/** How a kept picture is named: after what is in it, so that the same one is kept once. */
const NAME = /^own-[0-9a-f]{32}\.(png|jpg|webp|svg)$/

export type KeptPicture =
  { readonly ok: true; readonly name: string } | { readonly ok: false; readonly problem: string }

/** Checks a picture by what is in it, not by its name, and keeps it in the data directory. */
export async function keepPicture(directory: string, bytes: Uint8Array): Promise<KeptPicture> {
  if (bytes.length === 0) return { ok: false, problem: 'The file is empty.' }
  const ending = endingOf(bytes)
  if (!ending)
    return {
      ok: false,
      problem: 'This is not a picture the shop can show. Choose a PNG, JPEG, WebP or SVG file.',
    }
  let kept = bytes
  if (ending === 'svg') {
    const clean = cleanSvg(new TextDecoder().decode(bytes))
    if (clean === null)
      return {
        ok: false,
        problem: 'This SVG cannot be read, or has parts that only a browser window may have.',
      }
    kept = new TextEncoder().encode(clean)
  }
  const name = `own-${createHash('sha256').update(kept).digest('hex').slice(0, 32)}.${ending}`
  const folder = join(directory, FOLDER)
  await mkdir(folder, { recursive: true })
  // Written beside and moved into place: a picture that is half there is never shown.
  const beside = join(folder, `${name}.${process.pid}.part`)
  await writeFile(beside, kept)
  await rename(beside, join(folder, name))
  return { ok: true, name }
}

/** A kept picture with its type; `null` where there is none of the name. */
export async function readPicture(
  directory: string,
  name: string,
): Promise<{ readonly bytes: Uint8Array<ArrayBuffer>; readonly type: string } | null> {
  const ending = NAME.exec(name)?.[1] as Ending | undefined
  if (!ending) return null
  try {
    return { bytes: new Uint8Array(await readFile(join(directory, FOLDER, name))), type: TYPES[ending] }
  } catch {
    return null
  }
}

const FOLDER = 'pictures'

function endingOf(bytes: Uint8Array): Ending | null {
  const drawn = drawnAs(bytes)
  if (drawn) return drawn
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, 1_000))
  return /^[\s\u00ef\u00bb\u00bf]*(<\?xml[^>]*\?>\s*)?(<!--[\s\S]*?-->\s*)*<svg[\s>]/.test(text)
    ? 'svg'
    : null
}
