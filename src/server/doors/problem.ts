import { STATUS_CODES } from 'node:http'

export const PROBLEM_TYPE = 'application/problem+json'

/**
 * What is wrong, as the body of an answer.
 *
 * Source  RFC 9457, sections 3.1 and 4.2.1; `code` is for programs, and stands in `error` too, where those of before look for it
 */
export function problem(status: number, code: string, message: string): object {
  return {
    ...{ type: 'about:blank', title: STATUS_CODES[status] ?? 'Refused', status, detail: message, code },
    error: { code, message },
  }
}
