import {
  allowedHosts,
  DRAFT_HEADER,
  isBehindTls,
  judge,
  PATH_HEADER,
  REQUEST_ID_HEADER,
  requestId,
  securityHeaders,
  SIDE_HEADER,
  sideOf,
} from '@/server/doors/outer-door'
import { problem, PROBLEM_TYPE } from '@/server/doors/problem'
import { startingAnswer } from '@/server/doors/starting-page'
import { startProgress } from '@/server/operations/start-progress'
import { type NextRequest, NextResponse } from 'next/server'

const HOSTS = allowedHosts(process.env['STEPPE_HOSTS'])
/** What watches the server asks, before it is ready too. */
const ASKED_ALWAYS = new Set(['/health', '/ready'])
const LONGEST_PATH = 2_000
const IS_DEVELOPMENT = process.env['NODE_ENV'] === 'development'

/** Every request passes here first: names and origins are checked, and every answer gets its security headers. */
export function proxy(request: NextRequest): NextResponse {
  const { pathname: path, searchParams } = new URL(request.url)
  const headers = securityHeaders(crypto.randomUUID(), {
    isDevelopment: IS_DEVELOPMENT,
    isSecure: isBehindTls(),
  })
  const id = requestId(request.headers.get(REQUEST_ID_HEADER), () => crypto.randomUUID())
  const away = judge({ method: request.method, path, header: (name) => request.headers.get(name) }, HOSTS)
  if (away) {
    const { status, code, message } = away
    return NextResponse.json(problem(status, code, message), {
      status,
      headers: { ...headers, 'content-type': PROBLEM_TYPE, [REQUEST_ID_HEADER]: id },
    })
  }
  const progress = startProgress()
  if (progress.step !== 'ready' && !ASKED_ALWAYS.has(path)) {
    const wantsPage = request.method === 'GET' && (request.headers.get('accept') ?? '').includes('text/html')
    const starting = startingAnswer(progress, sideOf(path), wantsPage)
    return new NextResponse(starting.body, {
      status: 503,
      headers: { ...headers, ...starting.headers, [REQUEST_ID_HEADER]: id },
    })
  }
  const passed = new Headers(request.headers)
  passed.set('content-security-policy', headers['content-security-policy'] ?? '')
  passed.set(SIDE_HEADER, sideOf(path))
  passed.set(PATH_HEADER, `${path}${new URL(request.url).search}`.slice(0, LONGEST_PATH))
  passed.set(REQUEST_ID_HEADER, id)
  // Whatever a client sends under this name is not believed.
  passed.set(DRAFT_HEADER, searchParams.get('draft') ?? '')
  const response = NextResponse.next({ request: { headers: passed } })
  for (const [name, value] of Object.entries(headers)) response.headers.set(name, value)
  response.headers.set(REQUEST_ID_HEADER, id)
  return response
}

/** Files that never change are nobody's secret; they have no part in what a page may do. */
export const config = { matcher: '/((?!_next/static|pictures/|icon).*)' }
