import {
  addressOf,
  ROUTES,
  type AnswerOf,
  type BodySent,
  type Matching,
  type Params,
  type RouteName,
} from '../../core/api'

import { TAB } from './tab'

/** Asks the server by the routes of the contract (core/api). Errors become one line for a person. */

export class Refused extends Error {
  readonly status: number
  readonly code: string
  constructor(status: number, code: string, message: string) {
    super(message)
    this.status = status
    this.code = code
  }
}

interface Refusal {
  readonly error?: { readonly code?: string; readonly message?: string }
}

async function answerOf(response: Response): Promise<unknown> {
  const text = await response.text()
  const isJson = (response.headers.get('content-type') ?? '').includes('json')
  const data: unknown = isJson && text !== '' ? JSON.parse(text) : text
  if (response.ok) return data
  const { code = 'unknown', message = `the server answers ${response.status}` } = (data as Refusal).error ?? {}
  throw new Refused(response.status, code, message)
}

/** What a route is asked with, as far as it takes anything. */
export type Request<Name extends RouteName> = {
  readonly [Key in keyof Params<Name>]: Params<Name>[Key]
} & (BodySent<Name> extends undefined ? unknown : { readonly body: BodySent<Name> }) &
  (Name extends Matching ? { readonly revision: number } : unknown)

/** Asks a route; rejects with Refused. */
export async function call<Name extends RouteName>(name: Name, request: Request<Name>): Promise<AnswerOf<Name>> {
  const { body, revision } = request as { body?: unknown; revision?: number }
  const headers: Record<string, string> = { 'X-Tab': TAB }
  if (body !== undefined) headers['Content-Type'] = 'application/json'
  if (revision !== undefined) headers['If-Match'] = `"${revision}"`
  const sent = {
    method: ROUTES[name][0].toUpperCase(),
    headers,
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  }
  let response: Response
  try {
    response = await fetch(addressOf(name, request as unknown as Params<Name>), sent)
  } catch {
    throw new Refused(0, 'unreachable', 'the server cannot be reached')
  }
  return (await answerOf(response)) as AnswerOf<Name>
}
