import { type TestServer, withServer } from '@tests/browser/server'
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

/** What a request may leave behind in memory: nothing, but for what the machine learns about its own code. */
const LEFT_BY_ONE = 8 * 2 ** 10

test(`${COUNT} wrong requests: no error of the server’s own, no trace of its insides, nothing changed, memory steady`, async () => {
  const act = async ({ url, heap }: TestServer) => {
    const state = async () => (await fetch(`${url}/api/store`)).headers.get('etag')
    const before = await state()
    const wrong: string[] = []
    const requests = wrongRequests(COUNT)
    let warm = 0
    const half = requests.length / 2
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
      if (at < half && at + 8 >= half) warm = await heap()
    }
    expect(((await heap()) - warm) / half).toBeLessThan(LEFT_BY_ONE)
    expect(wrong.slice(0, 5)).toEqual([])
    expect(await state()).toBe(before)
    expect((await fetch(`${url}/board`)).status).toBe(200)
  }
  await withServer(act, undefined, true, { tellsHeap: true })
}, 1_800_000)
