import 'server-only'

import { NextResponse } from 'next/server'
import { freshSteppe } from '../changes/follow'
import type { Steppe } from '../engine/steppe'
import { problem, PROBLEM_TYPE } from './problem'
import type { PreparedStore } from '@/core/engine/context/prepared-store'

/** What an address of the interface answers with, once there is a store. */
type Handler<Request, Context> = (
  request: Request,
  store: { readonly steppe: Steppe; readonly prepared: PreparedStore },
  context: Context,
) => Promise<Response> | Response

/** A route that needs a store: before there is one, or while it cannot be read, it says so. */
export function withStore<Request, Context = unknown>(
  handler: Handler<Request, Context>,
): (request: Request, context: Context) => Promise<Response> {
  return async (request, context) => {
    const steppe = await freshSteppe()
    const { prepared } = steppe
    if (prepared) return handler(request, { steppe, prepared }, context)
    return refuse(
      409,
      steppe.broken ? 'store-broken' : 'not-set-up',
      steppe.broken
        ? 'This store cannot be read until it is mended: GET /api/store, mend the document, PUT it back.'
        : 'This store has not been set up yet: open it in a browser, or PUT a document to /api/store.',
    )
  }
}

/** An answer that says what is wrong: a problem (RFC 9457) with a code for programs. */
export function refuse(
  status: number,
  code: string,
  message: string,
  headers: Readonly<Record<string, string>> = {},
): NextResponse {
  return NextResponse.json(problem(status, code, message), {
    status,
    headers: { 'content-type': PROBLEM_TYPE, ...headers },
  })
}
