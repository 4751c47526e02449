import 'server-only'

import { existsSync } from 'node:fs'
import { dirname, join } from 'node:path'
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces'

/** A page of A4 with room for a hole punch. */
const MARGINS: [number, number, number, number] = [56, 48, 48, 64]
const SOFT = '#766d58'

interface PdfMaker {
  setFonts(fonts: Readonly<Record<string, Readonly<Record<string, string>>>>): void
  setUrlAccessPolicy(policy: () => boolean): void
  setLocalAccessPolicy(policy: (path: string) => boolean): void
  createPdf(definition: TDocumentDefinitions): { getBuffer(): Promise<Uint8Array> }
}

let maker: Promise<PdfMaker> | null = null

/** The maker with the shipped font, which reads nothing else, here or elsewhere. */
function pdfMaker(): Promise<PdfMaker> {
  return (maker ??= import('pdfmake').then((module) => {
    const made = ((module as { default?: unknown }).default ?? module) as PdfMaker
    const fonts = { normal: fontFile('400Regular'), bold: fontFile('600SemiBold') }
    made.setFonts({ Plex: { ...fonts, italics: fonts.normal, bolditalics: fonts.bold } })
    made.setUrlAccessPolicy(() => false)
    made.setLocalAccessPolicy((path) => Object.values(fonts).includes(path))
    return made
  }))
}

/** Errors  throws `RangeError` where the font is not installed: letters would vanish without a word. */
function fontFile(weight: string): string {
  const home = join(process.cwd(), 'node_modules', '@expo-google-fonts', 'ibm-plex-sans')
  const file = join(home, weight, `IBMPlexSans_${weight}.ttf`)
  if (!existsSync(file)) throw new RangeError(`there is no font in ${dirname(file)}`)
  return file
}

/** What a document says at its head, and on every page. */
export interface PdfHead {
  readonly title: string
  /** Who sends it: their name, then how to reach them. */
  readonly from: readonly string[]
  /** Whom it goes to, line by line. */
  readonly to: readonly string[]
  /** What it is of: dates, numbers, terms. */
  readonly facts: readonly (readonly [name: string, value: string])[]
}

/** A document of a few pages, as bytes: its head, then what it says, with its name and the page on each. */
export async function makePdf(head: PdfHead, content: readonly Content[]): Promise<Uint8Array> {
  const { title, from, to, facts } = head
  const made = (await pdfMaker()).createPdf({
    pageSize: 'A4',
    pageMargins: MARGINS,
    info: { title, creator: 'Steppe', producer: 'Steppe' },
    defaultStyle: { font: 'Plex', fontSize: 9.5, lineHeight: 1.25, color: '#26231b' },
    footer: (page: number, pages: number): Content => ({
      columns: [{ text: title }, { text: `Page ${page} of ${pages}`, alignment: 'right' }],
      margin: [MARGINS[0], 16, MARGINS[2], 0],
      fontSize: 8,
      color: SOFT,
    }),
    content: [
      {
        columns: [
          {
            stack: from.map((text, at) => ({ text, bold: at === 0, color: at === 0 ? '#26231b' : SOFT })),
            width: '*',
          },
        ],
        margin: [0, 0, 0, 28],
      },
      {
        columns: [
          { stack: to.map((text) => ({ text })), width: '*' },
          {
            width: 220,
            table: {
              widths: ['auto', '*'],
              body: facts.map(([name, value]) => [{ text: name, color: SOFT }, value]),
            },
            layout: 'noBorders',
          },
        ],
        margin: [0, 0, 0, 24],
      },
      { text: title, fontSize: 16, bold: true, margin: [0, 0, 0, 10] },
      ...content,
    ],
  })
  return new Uint8Array(await made.getBuffer())
}
