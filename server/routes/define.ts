import type { Request, Response, Router } from 'express'
import { z } from 'zod'
import { placeOf } from '../../core/site'
import { Refusal } from '../refusal'

/** A route as data, so that the OpenAPI document is made from the same lines that serve. */
export interface Route {
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete'
  /** Express path: `/api/sites/:site` */
  readonly path: string
  readonly summary: string
  readonly body?: z.ZodType
  /** needs `If-Match` with the revision that the change is made against */
  readonly matches?: boolean
  /** what it answers with; JSON where not said */
  readonly answers?: string
  readonly handle: (request: Request, response: Response) => unknown
}

/** A route whose body has been parsed. */
export function route<Body extends z.ZodType>(
  definition: Omit<Route, 'handle' | 'body'> & {
    body: Body
    handle: (request: Request, response: Response, body: z.infer<Body>) => unknown
  },
): Route
export function route(definition: Route): Route
export function route(
  definition: Omit<Route, 'handle'> & { handle: (request: Request, response: Response, body: never) => unknown },
): Route {
  const { body, handle } = definition
  return {
    ...definition,
    handle: (request, response) => {
      if (!body) return handle(request, response, undefined as never)
      const parsed = body.safeParse(request.body)
      if (!parsed.success) {
        const issue = parsed.error.issues[0]!
        throw new Refusal(400, 'bad-request', `${placeOf(issue.path) || 'the body'}: ${issue.message}`)
      }
      return handle(request, response, parsed.data as never)
    },
  }
}

/** One path parameter. */
export const parameter = (request: Request, name: string): string => String(request.params[name])

/** A path parameter that is a row's number. */
export function numberParameter(request: Request, name: string): number {
  const value = Number(parameter(request, name))
  if (!Number.isSafeInteger(value) || value < 1)
    throw new Refusal(404, 'not-found', `${name} ${parameter(request, name)} is not here`)
  return value
}

/** The revision in `If-Match` (RFC 9110, 13.1.1): the entity tag is the revision in quotes. */
export function matchedRevision(request: Request): number {
  const header = request.headers['if-match']
  const revision = header === undefined ? Number.NaN : Number(header.replace(/^"|"$/g, ''))
  if (!Number.isSafeInteger(revision))
    throw new Refusal(428, 'if-match-needed', 'If-Match with the revision is needed, so that no change is made unseen')
  return revision
}

export function mount(router: Router, routes: readonly Route[]): void {
  for (const { method, path, handle } of routes) {
    router[method](path, async (request, response) => {
      const answer = await handle(request, response)
      if (!response.headersSent) response.json(answer ?? { ok: true })
    })
  }
}

/** The OpenAPI 3.1 document of the routes. */
export function openApi(routes: readonly Route[]): object {
  const paths: Record<string, Record<string, object>> = {}
  for (const { method, path, summary, body, matches, answers } of routes) {
    const names = [...path.matchAll(/:(\w+)/g)].map((match) => match[1]!)
    const place = path.replace(/:(\w+)/g, '{$1}')
    const parameters = [
      ...names.map((name) => ({ name, in: 'path', required: true, schema: { type: 'string' } })),
      ...(matches
        ? [
            {
              name: 'If-Match',
              in: 'header',
              required: true,
              schema: { type: 'string' },
              description: 'the revision, in quotes',
            },
          ]
        : []),
    ]
    paths[place] = {
      ...paths[place],
      [method]: {
        summary,
        operationId: `${method}${place.replace(/[^a-zA-Z]+(.)?/g, (_, letter: string | undefined) => (letter ?? '').toUpperCase())}`,
        ...(parameters.length ? { parameters } : {}),
        ...(body
          ? {
              requestBody: {
                required: true,
                content: {
                  'application/json': {
                    schema: withoutDialect(z.toJSONSchema(body, { io: 'input', unrepresentable: 'any' })),
                  },
                },
              },
            }
          : {}),
        responses: {
          200: { description: 'done', content: { [answers ?? 'application/json']: { schema: {} } } },
          default: {
            description: 'refused',
            content: { 'application/json': { schema: { $ref: '#/components/schemas/Refusal' } } },
          },
        },
      },
    }
  }
  const refusal = {
    type: 'object',
    required: ['error'],
    properties: {
      error: {
        type: 'object',
        required: ['code', 'message'],
        properties: { code: { type: 'string' }, message: { type: 'string' } },
      },
    },
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Vestibule', version: '1' },
    paths,
    components: { schemas: { Refusal: refusal } },
  }
}

const withoutDialect = (schema: object): object =>
  Object.fromEntries(Object.entries(schema).filter(([key]) => key !== '$schema'))
