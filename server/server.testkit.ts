import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { CONTRACT, ROUTES, type Contract, type RouteName } from '../core/api'
import { SERVICE_KINDS } from '../core/services'
import { startServer, type RunningServer, type ServerOptions } from '.'

export interface TestServer extends RunningServer {
  readonly data: string
  ask(
    method: string,
    path: string,
    body?: unknown,
    headers?: Record<string, string>,
    // eslint-disable-next-line @typescript-eslint/no-explicit-any -- answers are asserted field by field
  ): Promise<{ status: number; json: any; text: string }>
}

/** The route that a request takes. */
const routeOf = (method: string, path: string): RouteName | undefined =>
  (Object.keys(ROUTES) as RouteName[]).find((name) => {
    const [verb, pattern] = ROUTES[name]
    const place = new RegExp(`^${pattern.replace(/\./g, '\\.').replace(/:\w+/g, '[^/]+')}$`)
    return verb.toUpperCase() === method && place.test(path.split('?')[0]!)
  })

/** Holds a success against what the contract says travels: every test that asks the server tests that too. */
function holdToContract(method: string, path: string, status: number, json: unknown): void {
  const name = routeOf(method, path)
  if (name === undefined || status >= 300) return
  const { answer, status: expected = 200 } = CONTRACT[name] as Contract
  if (status !== expected) throw new Error(`${name}: answers ${status}, the contract says ${expected}`)
  if (typeof answer === 'string') return
  const read = answer.safeParse(json)
  if (!read.success)
    throw new Error(`${name}: ${read.error.issues[0]!.path.join('.')}: ${read.error.issues[0]!.message}`)
}

/** A server of a test's own: on loopback, on free ports, and silent. */
export const TEST_OPTIONS: Omit<ServerOptions, 'dataFolder'> = {
  port: 0,
  host: '127.0.0.1',
  names: [],
  brokerPort: 0,
  doorPort: 0,
  brokerHost: null,
  tls: null,
  brokerUrl: null,
  passphrase: null,
  seed: true,
  quiet: true,
}

/** A server on a fresh data folder with the demo, on free ports. */
export async function testServer(
  options: Partial<Pick<ServerOptions, 'brokerUrl' | 'seed'>> = {},
): Promise<TestServer> {
  const data = mkdtempSync(join(tmpdir(), 'vestibule-server-'))
  const running = await startServer({ ...TEST_OPTIONS, ...options, dataFolder: data })
  return {
    ...running,
    data,
    ask: async (method, path, body, headers = {}) => {
      const response = await fetch(running.url + path, {
        method,
        headers: { ...(body === undefined ? {} : { 'Content-Type': 'application/json' }), ...headers },
        ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
      })
      const text = await response.text()
      const json = text.startsWith('{') ? JSON.parse(text) : undefined
      holdToContract(method, path, response.status, json)
      return { status: response.status, text, json }
    },
    close: async () => {
      await running.close()
      rmSync(data, { recursive: true, force: true })
    },
  }
}

export async function until<T>(
  what: () => T | undefined | false | null | Promise<T | undefined | false | null>,
  ms = 15_000,
): Promise<T> {
  for (const end = Date.now() + ms; ;) {
    const answer = await what()
    if (answer) return answer
    if (Date.now() > end) throw new Error(`waited ${ms} ms in vain for ${what.toString()}`)
    await new Promise((resolve) => setTimeout(resolve, 25))
  }
}

/** The datapoint service of a site without its wire: then it is reached over the broker of the house. */
export async function overTheHouse(server: TestServer, site: string): Promise<void> {
  const kind = SERVICE_KINDS.find(({ id }) => id === 'datapoint')!
  const value = Object.fromEntries(Object.entries(kind).filter(([name]) => name !== 'wire'))
  const { revision } = (await server.ask('GET', `/api/sites/${site}`)).json as { revision: number }
  const patch = [{ op: 'add', path: '/profiles/services/-', value }]
  const answer = await server.ask(
    'PATCH',
    `/api/sites/${site}`,
    { label: 'a kind', patch },
    { 'If-Match': `"${revision}"` },
  )
  if (answer.status !== 200) throw new Error(answer.text)
}
