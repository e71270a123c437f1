import { credentialsNeeded } from '../core/services'
import type { Site } from '../core/site'
import type { TestServer } from './server.testkit'

export { lampFanStrike } from '../core/outputs/kinds.testkit'

const VALUES: Readonly<Record<string, string>> = { host: '127.0.0.1', pin: '48151623' }

/** Puts a site into a server, with a value for every credential that it needs; gives its id. */
export async function intoServer(server: TestServer, site: Site): Promise<string> {
  const answer = await server.ask('POST', '/api/sites', { site })
  if (answer.status !== 201) throw new Error(answer.text)
  const { id } = answer.json as { id: string }
  const { site: stored } = (await server.ask('GET', `/api/sites/${id}`)).json as { site: Site }
  for (const need of credentialsNeeded(stored)) {
    if (need.made) continue
    const value = VALUES[need.shape] ?? `${need.key.replace(/[^a-z0-9]+/g, '-')}-0123456789`
    const put = await server.ask('PUT', `/api/sites/${id}/credentials`, { key: need.key, value: value })
    if (put.status !== 200) throw new Error(`${need.key}: ${put.text}`)
  }
  return id
}
