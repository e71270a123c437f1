import { randomBytes } from 'node:crypto'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { RigState } from '../core/api'
import { credentialsNeeded } from '../core/services'
import type { Site } from '../core/site'

/**
 * A whole site in the flesh on this machine: its stand-ins, its broker, and the firmware of every controller, with
 * credentials that are made up for the run. What the boards say is printed as it comes.
 */
export interface LiveRun {
  readonly url: string
  /** The same doors as the pages use, behind "/api/sites/ID"; throws what the server says against it. */
  ask(method: string, path: string, body?: unknown): Promise<unknown>
  /** Lines that the boards have said since the last time, "corner app: refused: …". */
  news(): Promise<string[]>
  state(): Promise<RigState>
  close(): Promise<void>
}

/** A value of the shape that a credential has. */
function madeUp(shape: string): string {
  if (shape === 'host') return '127.0.0.1'
  if (shape === 'url') return 'http://127.0.0.1'
  if (shape === 'pin') return String((randomBytes(4).readUInt32BE() % 90_000_000) + 10_000_000)
  return randomBytes(15).toString('hex')
}

/** What the boards have said since it was asked last. */
function newsOf(state: () => Promise<RigState>): () => Promise<string[]> {
  const printed = new Map<string, string>()
  const troubled = new Set<string>()
  return async () =>
    (await state()).boards.flatMap(({ controller, trouble, said }) => {
      const last = printed.get(controller) ?? ''
      const fresh = said.filter(({ at }) => at > last)
      if (fresh.length > 0) printed.set(controller, fresh.at(-1)!.at)
      const lines = fresh.map(({ text }) => `${controller} ${text}`)
      if (!trouble || troubled.has(controller)) return lines
      troubled.add(controller)
      return [`${controller}: ${trouble}`, ...lines]
    })
}

const OPTIONS = {
  ...{ host: '127.0.0.1', names: [], brokerPort: 0, doorPort: 0, brokerHost: null, tls: null, brokerUrl: null },
  ...{ passphrase: null, seed: false, quiet: false },
}

export async function startLive(site: Site, port: number): Promise<LiveRun> {
  const { startServer } = await import('../server')
  const folder = mkdtempSync(join(tmpdir(), 'vestibule-live-'))
  const server = await startServer({ ...OPTIONS, dataFolder: folder, port })
  const ask = async (method: string, path: string, body?: unknown): Promise<unknown> => {
    const answer = await fetch(`${server.url}${path}`, {
      method,
      headers: { 'Content-Type': 'application/json', Origin: server.url },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    })
    if (!answer.ok) throw new Error(`${method} ${path}: ${await answer.text()}`)
    return answer.json()
  }
  const { id } = (await ask('POST', '/api/sites', { site })) as { id: string }
  for (const need of credentialsNeeded(site))
    if (!need.made) await ask('PUT', `/api/sites/${id}/credentials`, { key: need.key, value: madeUp(need.shape) })
  await ask('PUT', `/api/sites/${id}/rig`, { on: true })
  const state = async () => (await ask('GET', `/api/sites/${id}/rig`)) as RigState
  return {
    url: `${server.url}/${id}/trial?side=rig`,
    ask: (method, path, body) => ask(method, `/api/sites/${id}${path}`, body),
    state,
    news: newsOf(state),
    close: async () => {
      await server.close()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
