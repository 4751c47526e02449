import 'server-only'

import pino from 'pino'

const LEVELS = ['trace', 'debug', 'info', 'warn', 'error', 'silent']

/** How much is told: `STEPPE_LOG`, such as `info` for a line a request. What goes wrong is told by itself. */
function level(): string {
  const wanted = process.env['STEPPE_LOG'] ?? ''
  return LEVELS.includes(wanted) ? wanted : 'warn'
}

/** What went wrong, without the values that went to the database: some of them are secrets. */
export function withoutValues(error: Error): object {
  const { params: _params, ...told } = pino.stdSerializers.err(error) as Readonly<Record<string, unknown>>
  const cut = (text: unknown) => (typeof text === 'string' ? text.replace(/\nparams: [^\n]*/, '') : text)
  return { ...told, message: cut(told['message']), stack: cut(told['stack']) }
}

/**
 * What the server tells whoever runs it: a line of JSON each, on the error output. Of a request it says the path without what is asked
 * for in it, and never what was sent.
 */
export const log = pino(
  {
    level: level(),
    base: { process: Number(process.env['STEPPE_PROCESS'] ?? 1) },
    serializers: { err: withoutValues },
  },
  pino.destination({ fd: 2, sync: true }),
)
