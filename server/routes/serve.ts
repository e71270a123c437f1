import type { Request, Response, Router } from 'express'
import {
  CONTRACT,
  namesIn,
  ROUTES,
  type AnswerOf,
  type BodyOf,
  type Contract,
  type Matching,
  type Params,
  type RouteName,
} from '../../core/api'
import { placeOf } from '../../core/site'
import { Refusal } from '../refusal'

/** A request whose parts have been read as its contract says. */
export interface Asked<Name extends RouteName> {
  readonly params: Params<Name>
  readonly body: BodyOf<Name>
  /** the revision that a change is made against */
  readonly revision: Name extends Matching ? number : undefined
  /** the tab that asks; empty: it does not say */
  readonly tab: string
  /** for what is not JSON: headers, and the file itself */
  readonly response: Response
}

type Handle<Name extends RouteName> = (asked: Asked<Name>) => AnswerOf<Name> | Promise<AnswerOf<Name>>

/** A route with what serves it. */
export interface Served {
  readonly name: RouteName
  readonly handle: Handle<never>
}

export const serve = <Name extends RouteName>(name: Name, handle: Handle<Name>): Served => ({
  name,
  handle: handle as unknown as Handle<never>,
})

/** A parameter that is a row's number. */
export function rowNumber(thing: string, text: string): number {
  const value = Number(text)
  if (!Number.isSafeInteger(value) || value < 1) throw new Refusal(404, 'not-found', `${thing} ${text} is not here`)
  return value
}

/** The revision in `If-Match` (RFC 9110, 13.1.1): the entity tag is the revision in quotes. */
function matchedRevision(request: Request): number {
  const revision = Number(/^"?(\d+)"?$/.exec(request.headers['if-match'] ?? '')?.[1] ?? Number.NaN)
  if (!Number.isSafeInteger(revision))
    throw new Refusal(428, 'if-match-needed', 'If-Match with the revision is needed, so that no change is made unseen')
  return revision
}

function bodyOf({ body }: Contract, request: Request): unknown {
  if (!body) return undefined
  const parsed = body.safeParse(request.body)
  if (parsed.success) return parsed.data
  const issue = parsed.error.issues[0]!
  throw new Refusal(400, 'bad-request', `${placeOf(issue.path) || 'the body'}: ${issue.message}`)
}

/** What the server answers with when a route has nothing to say. */
export const DONE = { ok: true } as const

export function mount(router: Router, served: readonly Served[]): void {
  for (const { name, handle } of served) {
    const [method, path] = ROUTES[name]
    const contract: Contract = CONTRACT[name]
    router[method](path, async (request: Request, response: Response) => {
      const asked = {
        params: Object.fromEntries(namesIn(path).map((key) => [key, String(request.params[key])])),
        body: bodyOf(contract, request),
        revision: contract.matches && matchedRevision(request),
        tab: /^[\w-]{1,40}$/.exec(request.get('X-Tab') ?? '')?.[0] ?? '',
        response,
      }
      const answer: unknown = await handle(asked as unknown as Asked<never>)
      if (typeof contract.answer === 'string') response.send(answer)
      else response.status(contract.status ?? 200).json(answer)
    })
  }
}
