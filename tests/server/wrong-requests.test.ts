import { withServer } from '@tests/browser/server'
import { request } from 'node:http'
import { type WrongRequest, wrongRequests } from './wrong-requests'

const COUNT = Number(process.env['STEPPE_WRONG_REQUESTS'] ?? 2_000)
/** Nobody waits longer for an answer, be it a refusal. */
const PATIENCE = 15_000

interface Answered {
  readonly status: number
  readonly text: string
}

function send(url: string, { method, path, headers, body }: WrongRequest): Promise<Answered> {
  return new Promise((resolve, reject) => {
    const { hostname, port } = new URL(url)
    const asking = request({ hostname, port, method, path, headers, timeout: PATIENCE }, (answer) => {
      let text = ''
      answer.setEncoding('utf8')
      answer.on('data', (chunk: string) => (text += chunk))
      answer.on('end', () => resolve({ status: answer.statusCode ?? 0, text }))
    })
    asking.once('timeout', () => asking.destroy(new Error(`no answer within ${PATIENCE} ms`)))
    asking.once('error', reject)
    if (body !== null) asking.write(body)
    asking.end()
  })
}

/** Bytes of the server's heap that are in use. */
async function heapOf(url: string): Promise<number> {
  const told = await (await fetch(`${url}/metrics`)).text()
  return Number(/^nodejs_heap_size_used_bytes(?:\{[^}]*\})? (\d+)/m.exec(told)?.[1])
}

/** The least that is in use over a part of the time: what is left when garbage has just been cleared away. */
function floor(heaps: readonly number[], from: number, to: number): number {
  return Math.min(...heaps.slice(Math.floor(heaps.length * from), Math.ceil(heaps.length * to)))
}

/** Garbage that waits to be cleared away when measured. */
const SLACK = 50 * 2 ** 20

test(`${COUNT} wrong requests: no error of the server’s own, no trace of its insides, nothing changed, memory steady`, async () => {
  await withServer(async ({ url }) => {
    const state = async () => (await fetch(`${url}/api/store`)).headers.get('etag')
    const before = await state()
    const wrong: string[] = []
    const requests = wrongRequests(COUNT)
    const heaps: number[] = []
    for (let at = 0; at < requests.length; at += 8) {
      await Promise.all(
        requests.slice(at, at + 8).map(async (each) => {
          const { status, text } = await send(url, each).catch((error: Error) => ({
            status: 599,
            text: error.message,
          }))
          const tells = /\bat [\w.<>]+ \(|node_modules|\.next\/server/.test(text)
          if (status >= 500 || tells)
            wrong.push(`${status} ${JSON.stringify(each).slice(0, 300)} ${text.slice(0, 200)}`)
        }),
      )
      if (at % 80 === 0) heaps.push(await heapOf(url))
    }
    expect(floor(heaps, 0.75, 1)).toBeLessThan(1.3 * floor(heaps, 0.25, 0.5) + SLACK)
    expect(wrong.slice(0, 5)).toEqual([])
    expect(await state()).toBe(before)
    expect((await fetch(`${url}/board`)).status).toBe(200)
  })
}, 1_800_000)
