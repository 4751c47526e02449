import 'server-only'

import type { Permission } from '@/core/staff/permission'
import type { KeyScope } from '@/core/staff/key-scope'
import { narrowed } from '@/core/engine/context/narrowed'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { sharedMemory } from '@/core/maps/shared-memory'
import type Joi from 'joi'
import { headers } from 'next/headers'
import { createHash } from 'node:crypto'
import { forbidden, notFound, redirect, unauthorized } from 'next/navigation'
import { PATH_HEADER, SIDE_HEADER } from '../doors/outer-door'
import { freshSteppe } from '../changes/follow'
import { refuse, withStore } from '../doors/with-store'
import { DatabaseGoneError, LatelyRead, saysGone } from '../database/presence'
import { getSteppe, type Steppe } from '../engine/steppe'
import { timed } from '../operations/timed'
import { noteAudit } from '../staff/audit'
import { findKey, type FoundKey } from '../staff/api-keys'
import { areArguments } from './argument-shapes'
import { findDoer } from './doer'
import { type Doer, doAs, sightOf } from './doing'
import { requestAddress } from './request-address'
import { isLookedThrough } from './shop-session'

/** A function of a page, called over the network: everything about its arguments has to be asked. */
type Action<Given extends readonly unknown[], Result> = (...given: Given) => Promise<Result>

/** An action of the merchant's pages, for whoever has a permission. */
export function merchantAction<Given extends readonly unknown[], Result>(
  permission: Permission,
  shapes: readonly Joi.Schema[],
  act: Action<Given, Result>,
): Action<Given, Result> {
  return async (...given) => {
    // Posted to a page of the shop it is not done: what is the merchant's is not to be had from there.
    if ((await headers()).get(SIDE_HEADER) === 'shop') notFound()
    const doer = await findDoer()
    if (!doer) unauthorized()
    if (!(await isPermitted(doer, permission))) forbidden()
    if (!areArguments(shapes, given)) notFound()
    await freshSteppe()
    return timed('action', () => doAs(doer, () => act(...given)))
  }
}

/** An action of the shop's pages: who the visitor is, and what they may, `act` asks the visitor's session. */
export function shopAction<Given extends readonly unknown[], Result>(
  shapes: readonly Joi.Schema[],
  act: Action<Given, Result>,
): Action<Given, Result> {
  return async (...given) => {
    if (!areArguments(shapes, given)) notFound()
    await freshSteppe()
    return timed('action', () => act(...given))
  }
}

/** An action by which a buyer binds themselves: whoever of the merchant's looks with their eyes does not do it for them. */
export function buyerAction<Given extends readonly unknown[], Result>(
  shapes: readonly Joi.Schema[],
  act: Action<Given, Result>,
): Action<Given, Result> {
  return shopAction(shapes, async (...given: Given) => {
    if (await isLookedThrough()) forbidden()
    return act(...given)
  })
}

/** A page of the merchant's, for whoever has a permission; whoever has not signed in is led there, and back. */
export function merchantPage<Props, Drawn>(
  permission: Permission,
  draw: (props: Props, doer: Doer) => Promise<Drawn> | Drawn,
): (props: Props) => Promise<Drawn> {
  return async (props) => {
    const doer = await signedIn()
    if (!(await isPermitted(doer, permission))) forbidden()
    await freshSteppe()
    return timed('page', () => doAs(doer, () => draw(props, doer)))
  }
}

/** Whoever is signed in. Whoever is not is led to where that is done. */
export async function signedIn(): Promise<Doer> {
  const doer = await findDoer()
  if (doer) return doer
  const back = (await headers()).get(PATH_HEADER) ?? '/board'
  redirect(`/sign-in?${new URLSearchParams({ back })}`)
}

/** What an address answers with, for whom. */
type RouteHandler<Asked, Context> = (
  request: Asked,
  store: { readonly steppe: Steppe; readonly prepared: PreparedStore; readonly doer: Doer },
  context: Context,
) => Promise<Response> | Response

/** An address the merchant's pages read from, for whoever has a permission. */
export function merchantRoute<Asked extends Request, Context = unknown>(
  permission: Permission,
  answer: RouteHandler<Asked, Context>,
): (request: Asked, context: Context) => Promise<Response> {
  return unlessGone(async (request, context) => {
    const doer = await findDoer()
    if (!doer) return notSignedIn()
    if (!(await isPermitted(doer, permission))) return notPermitted()
    return timed('route', () =>
      doAs(doer, () =>
        withStore<Asked, Context>((asked, { steppe, prepared }, within) =>
          answer(asked, { steppe, prepared: narrowed(prepared, sightOf(doer)), doer }, within),
        )(request, context),
      ),
    )
  })
}

/** An address programs ask, with a key of a scope; whoever is signed in with a permission may as well. */
export function machineRoute<Asked extends Request>(
  { scope, permission }: { readonly scope: KeyScope; readonly permission: Permission },
  answer: (request: Asked, doer: Doer) => Promise<Response> | Response,
): (request: Asked) => Promise<Response> {
  return unlessGone(async (request) => {
    const { presence } = await freshSteppe()
    const given = request.headers.get('authorization')
    if (given === null) {
      const doer = await findDoer()
      if (!doer) return notSignedIn()
      if (!(await isPermitted(doer, permission))) return notPermitted()
      return timed('route', () => doAs(doer, () => answer(request, doer)))
    }
    const found = await LATELY.read(presence, digestOf(given), async () => findKey(await getSteppe(), given))
    if (!found.ok)
      return found.code === 'too-many'
        ? refuse(429, 'too-many-requests', `This key may ask ${found.perMinute} times a minute.`, {
            'retry-after': String(found.seconds),
          })
        : refuse(401, 'unknown-key', 'There is no such key, or it has expired or was revoked.', CHALLENGE)
    if (!found.scopes.includes(scope))
      return refuse(403, 'not-in-scope', `This key is not for this: it lacks the scope ${scope}.`)
    return timed('route', () => doAs(found.doer, () => answer(request, found.doer)))
  })
}

/** Keys programs came with lately, so that they may go on asking while the database is gone. */
const LATELY = sharedMemory('lately-asked', () => new LatelyRead<FoundKey>())

function digestOf(header: string): string {
  return createHash('sha256').update(header).digest('hex')
}

/** An address that says so while it cannot answer without the database. */
function unlessGone<Given extends readonly unknown[]>(
  answer: (...given: Given) => Promise<Response>,
): (...given: Given) => Promise<Response> {
  return async (...given) => {
    try {
      return await answer(...given)
    } catch (error) {
      if (!(error instanceof DatabaseGoneError) && !saysGone(error)) throw error
      return refuse(
        503,
        'database-gone',
        'The database does not answer just now, and nothing was written. Ask again in a moment.',
        { 'retry-after': '5' },
      )
    }
  }
}

/** A page of the shop: whoever it is for, the visitor's session says. */
export function shopPage<Props, Drawn>(
  draw: (props: Props) => Promise<Drawn> | Drawn,
): (props: Props) => Promise<Drawn> {
  return async (props) => {
    await freshSteppe()
    return timed('page', () => draw(props))
  }
}

/** An address the shop's pages read from: likewise. */
export function shopRoute<Asked extends Request, Context = unknown>(
  answer: (
    request: Asked,
    store: { readonly steppe: Steppe; readonly prepared: PreparedStore },
    context: Context,
  ) => Promise<Response> | Response,
): (request: Asked, context: Context) => Promise<Response> {
  const answered = withStore(answer)
  return unlessGone((request: Asked, context: Context) => timed('route', () => answered(request, context)))
}

/** An address for whoever asks, and why that is right. */
export function openRoute(_why: string, answer: () => Promise<Response> | Response): () => Promise<Response> {
  return async () => answer()
}

/** A page for whoever comes, and why that is right. */
export function openPage<Props, Drawn>(_why: string, draw: (props: Props) => Drawn): (props: Props) => Drawn {
  return draw
}

/** An action for whoever comes, as signing in is, and why that is right. */
export function openAction<Given extends readonly unknown[], Result>(
  _why: string,
  shapes: readonly Joi.Schema[],
  act: Action<Given, Result>,
): Action<Given, Result> {
  return shopAction(shapes, act)
}

const CHALLENGE = { 'www-authenticate': 'Bearer' }

function notSignedIn() {
  return refuse(401, 'not-signed-in', 'Sign in, or send a key: Authorization: Bearer …', CHALLENGE)
}

function notPermitted() {
  return refuse(403, 'not-permitted', 'Your role does not allow this.')
}

async function isPermitted(doer: Doer, permission: Permission): Promise<boolean> {
  if (doer.permissions.has(permission)) return true
  const { database } = await getSteppe()
  const path = (await headers()).get(PATH_HEADER) ?? ''
  const [place = ''] = path.split('?')
  await noteAudit(database, {
    ...{ kind: 'refused', who: doer.name, about: permission, detail: place },
    address: await requestAddress(),
  })
  return false
}
