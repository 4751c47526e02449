/** What a drawing may be made of: shapes, text, gradients and groups; nothing that runs, moves or loads anything. */
const ELEMENTS: ReadonlySet<string> = new Set(
  'svg g path rect circle ellipse line polyline polygon text tspan title desc defs linearGradient radialGradient stop clipPath mask pattern symbol use'.split(
    ' ',
  ),
)
const ATTRIBUTES: ReadonlySet<string> = new Set(
  (
    'xmlns viewBox preserveAspectRatio width height x y x1 y1 x2 y2 cx cy r rx ry d points dx dy transform id class ' +
    'fill fill-opacity fill-rule stroke stroke-width stroke-linecap stroke-linejoin stroke-dasharray stroke-opacity ' +
    'stroke-miterlimit opacity offset stop-color stop-opacity gradientUnits gradientTransform spreadMethod fx fy ' +
    'clip-path clip-rule clipPathUnits mask maskUnits patternUnits patternTransform font-family font-size font-weight ' +
    'text-anchor dominant-baseline href role aria-hidden aria-label'
  ).split(' '),
)
const TAG = /<(\/?)([A-Za-z][\w:-]*)((?:\s+[\w:.-]+\s*=\s*(?:"[^"<]*"|'[^'<]*'))*)\s*(\/?)>/y
const ATTRIBUTE = /([\w:.-]+)\s*=\s*(?:"([^"]*)"|'([^']*)')/g
const MOST_ELEMENTS = 20_000

/**
 * An SVG made again from the parts of it that only draw. Whatever else is in it is left out, with all that is inside.
 *
 * Errors  `null` for what is not well formed, or has a document type, which could stand for anything.
 */
export function cleanSvg(text: string): string | null {
  const source = text
    .replace(/^\uFEFF/, '')
    .replace(/<\?xml[^>]*\?>/, '')
    .replace(/<!--[\s\S]*?-->/g, '')
    .trim()
  if (/<!/.test(source) || /<\?/.test(source)) return null
  const made: string[] = []
  const open: { readonly name: string; readonly isKept: boolean }[] = []
  let at = 0
  for (let elements = 0; at < source.length; elements += 1) {
    if (elements > MOST_ELEMENTS) return null
    const next = source.indexOf('<', at)
    if (next < 0) return null
    const isShown = open.every(({ isKept }) => isKept)
    const words = source.slice(at, next)
    if (words.trim() !== '' && isShown && open.length > 0) made.push(words.replace(/[<>]/g, ''))
    TAG.lastIndex = next
    const tag = TAG.exec(source)
    if (!tag) return null
    at = TAG.lastIndex
    const [, closing, name = '', attributes = '', isEmpty] = tag
    if (closing) {
      const last = open.pop()
      if (last?.name !== name) return null
      if (last.isKept && isShown) made.push(`</${name}>`)
      if (open.length === 0) break
      continue
    }
    if (open.length === 0 && name !== 'svg') return null
    const isKept = ELEMENTS.has(name)
    if (isKept && isShown) made.push(`<${name}${keptAttributes(attributes)}${isEmpty ? '/' : ''}>`)
    if (!isEmpty) open.push({ name, isKept })
  }
  return open.length === 0 && made.length > 0 && source.slice(at).trim() === ''
    ? withNamespace(made.join(''))
    : null
}

function keptAttributes(attributes: string): string {
  let kept = ''
  for (const [, name = '', double, single] of attributes.matchAll(ATTRIBUTE)) {
    const value = double ?? single ?? ''
    const plain = name === 'xlink:href' ? 'href' : name
    if (!ATTRIBUTES.has(plain)) continue
    // Only what is in the drawing itself is pointed to.
    if (plain === 'href' && !/^#[\w-]+$/.test(value)) continue
    if (/url\(/i.test(value) && !/^url\(#[\w-]+\)$/.test(value.trim())) continue
    if (/javascript:|data:|expression\(|[<>"]/i.test(value)) continue
    kept += ` ${plain}="${value}"`
  }
  return kept
}

function withNamespace(svg: string): string {
  return /^<svg[^>]* xmlns=/.test(svg) ? svg : svg.replace('<svg', '<svg xmlns="http://www.w3.org/2000/svg"')
}
