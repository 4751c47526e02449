import { cleanSvg } from '@/server/pictures/clean-svg'
import { keepPicture, readPicture } from '@/server/pictures/picture-files'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'

const NS = 'xmlns="http://www.w3.org/2000/svg"'

test.each([
  [
    'a shape stays',
    `<svg ${NS} viewBox="0 0 8 8"><path d="M0 0h8"/></svg>`,
    `<svg ${NS} viewBox="0 0 8 8"><path d="M0 0h8"/></svg>`,
  ],
  ['the namespace is added', '<svg><rect width="1"/></svg>', `<svg ${NS}><rect width="1"/></svg>`],
  [
    'a script goes, with what is in it',
    `<svg ${NS}><script>alert(1)</script><g/></svg>`,
    `<svg ${NS}><g/></svg>`,
  ],
  [
    'so does a script in a foreign object',
    `<svg ${NS}><foreignObject><path d="M0"/></foreignObject></svg>`,
    `<svg ${NS}></svg>`,
  ],
  ['handlers go', `<svg ${NS} onload="x()"><g onclick='x()'/></svg>`, `<svg ${NS}><g/></svg>`],
  [
    'links outside go',
    `<svg ${NS}><use href="https://elsewhere.example/a.svg#b"/></svg>`,
    `<svg ${NS}><use/></svg>`,
  ],
  ['links inside stay', `<svg ${NS}><use xlink:href="#b"/></svg>`, `<svg ${NS}><use href="#b"/></svg>`],
  [
    'a fill from elsewhere goes',
    `<svg ${NS}><g fill="url(https://x.example)"/></svg>`,
    `<svg ${NS}><g/></svg>`,
  ],
  [
    'a fill from inside stays',
    `<svg ${NS}><g fill="url(#a)"/></svg>`,
    `<svg ${NS}><g fill="url(#a)"/></svg>`,
  ],
  ['styles go', `<svg ${NS}><style>@import "x"</style><g style="x"/></svg>`, `<svg ${NS}><g/></svg>`],
  [
    'comments and the declaration go',
    `<?xml version="1.0"?><!-- a --><svg ${NS}><g/></svg>`,
    `<svg ${NS}><g/></svg>`,
  ],
])('%s', (_reason, text, clean) => {
  expect(cleanSvg(text)).toBe(clean)
})

test.each([
  ['a document type', `<!DOCTYPE svg [<!ENTITY a "b">]><svg ${NS}/>`],
  ['tags that do not close', `<svg ${NS}><g></svg>`],
  ['something else', '<html><svg/></html>'],
  ['something behind it', `<svg ${NS}></svg><script/>`],
  ['a broken attribute', `<svg ${NS}><g fill=red/></svg>`],
  ['nothing', ''],
])('%s is refused', (_reason, text) => {
  expect(cleanSvg(text)).toBeNull()
})

test('whatever is put together from tags, nothing that runs comes out', () => {
  const part = fc.constantFrom(
    '<g>',
    '</g>',
    '<script>',
    '</script>',
    '<path d="M0"/>',
    '<g onload="x">',
    "<use href='javascript:x'/>",
    'text',
    '<a href="x">',
    '</a>',
    '<![CDATA[',
    ']]>',
  )
  fc.assert(
    fc.property(fc.array(part, { maxLength: 12 }), (parts) => {
      const clean = cleanSvg(`<svg>${parts.join('')}</svg>`) ?? ''
      expect(clean).not.toMatch(/script|onload|javascript|<a\b|CDATA/)
    }),
  )
})

describe('kept pictures', () => {
  const directory = mkdtempSync(join(tmpdir(), 'steppe-pictures-'))
  afterAll(() => rmSync(directory, { recursive: true, force: true }))
  const png = new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1, 2, 3])

  test('are named after what is in them, and come back with their type', async () => {
    const kept = await keepPicture(directory, png)
    if (!kept.ok) throw new Error(kept.problem)
    expect(kept.name).toMatch(/^own-[0-9a-f]{32}\.png$/)
    expect(await keepPicture(directory, png)).toEqual(kept)
    expect(await readPicture(directory, kept.name)).toEqual({ bytes: png, type: 'image/png' })
  })

  test('an SVG is kept clean', async () => {
    const kept = await keepPicture(directory, new TextEncoder().encode('<svg><script>x</script><g/></svg>'))
    if (!kept.ok) throw new Error(kept.problem)
    const read = await readPicture(directory, kept.name)
    expect(new TextDecoder().decode(read?.bytes)).toBe(`<svg ${NS}><g/></svg>`)
    expect(read?.type).toBe('image/svg+xml')
  })

  test.each([
    ['a page', '<html><body>'],
    ['a PDF', '%PDF-1.7'],
    ['nothing', ''],
    ['an SVG with a document type', '<svg><!DOCTYPE x></svg>'],
  ])('%s is refused', async (_reason, text) => {
    expect((await keepPicture(directory, new TextEncoder().encode(text))).ok).toBe(false)
  })

  test.each(['../store.json', 'own-x.png', `own-${'0'.repeat(32)}.png/../x`, `own-${'0'.repeat(32)}.png`])(
    'there is no picture “%s”',
    async (name) => {
      expect(await readPicture(directory, name)).toBeNull()
    },
  )
})
