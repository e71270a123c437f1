import { z } from 'zod'
import { CONTRACT, type Contract } from './contract'
import { LiveMessage } from './live'
import { LIVE_PATH, namesIn, ROUTES, type RouteName } from './routes'

const schemaOf = (type: z.ZodType, io: 'input' | 'output'): object => {
  const schema = z.toJSONSchema(type, { io, unrepresentable: 'any' })
  return Object.fromEntries(Object.entries(schema).filter(([key]) => key !== '$schema'))
}

const json = (schema: object): object => ({ 'application/json': { schema } })

function parametersOf(path: string, { matches }: Contract): object[] {
  const inPath = namesIn(path).map((name) => ({ name, in: 'path', required: true, schema: { type: 'string' } }))
  const ifMatch = {
    name: 'If-Match',
    in: 'header',
    required: true,
    schema: { type: 'string' },
    description: 'the revision, in quotes',
  }
  return matches ? [...inPath, ifMatch] : inPath
}

function operationOf(name: RouteName): object {
  const contract: Contract = CONTRACT[name]
  const { summary, body, answer, status = 200 } = contract
  const parameters = parametersOf(ROUTES[name][1], contract)
  const content = typeof answer === 'string' ? { [answer]: { schema: {} } } : json(schemaOf(answer, 'output'))
  return {
    summary,
    operationId: name,
    ...(parameters.length ? { parameters } : {}),
    ...(body
      ? { requestBody: { required: !body.safeParse(undefined).success, content: json(schemaOf(body, 'input')) } }
      : {}),
    responses: {
      [status]: { description: 'done', content },
      default: { description: 'refused', content: json({ $ref: '#/components/schemas/Refusal' }) },
    },
  }
}

const REFUSAL = {
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

/** The OpenAPI 3.1 document of all routes; live messages stand among its schemas. */
export function openApiDocument(): object {
  const paths: Record<string, Record<string, object>> = {}
  for (const name of Object.keys(ROUTES) as RouteName[]) {
    const [method, path] = ROUTES[name]
    const place = path.replace(/:(\w+)/g, '{$1}')
    paths[place] = { ...paths[place], [method]: operationOf(name) }
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Vestibule',
      version: '1',
      description: `Live updates: a WebSocket at ${LIVE_PATH}?site=ID sends LiveMessage texts.`,
    },
    paths,
    components: { schemas: { Refusal: REFUSAL, LiveMessage: schemaOf(LiveMessage, 'output') } },
  }
}
