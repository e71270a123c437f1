import { readBack } from '../core/outputs/readCode.testkit'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { testServer, type TestServer } from './server.testkit'

/** The pairing label, its code read back by a reader that is not ours (jsQR, on pixels). */

let server: TestServer
beforeAll(async () => {
  server = await testServer()
})
afterAll(() => server.close())

const PATH = '/api/sites/studio-corner/controllers/corner/pairing-label'

describe('the pairing label', () => {
  it('is refused while there is nothing to pair with, and no file is made of the refusal', async () =>
    expect(await server.ask('POST', PATH)).toMatchObject({ status: 404 }))
  it('holds name and PIN, as words and as a code', async () => {
    const site = (await server.ask('GET', '/api/sites/studio-corner')).json
    const at = site.site.services.findIndex(({ id }: { id: string }) => id === 'app')
    await server.ask(
      'PATCH',
      '/api/sites/studio-corner',
      { label: 'kind', patch: [{ op: 'replace', path: `/services/${at}/kind`, value: 'provisioned' }] },
      { 'If-Match': `"${site.revision}"` },
    )
    const keep = (key: string, value: string) =>
      server.ask('PUT', '/api/sites/studio-corner/credentials', { key, value })
    await keep('app/pairing-name/corner', 'corner & desk')
    await keep('app/pairing-pin/corner', '83-91-26')
    const { status, text } = await server.ask('POST', PATH)
    expect(status).toBe(200)
    const words = [...text.matchAll(/<text[^>]*>([^<]*)/g)].map(([, line]) => line).join(' ')
    expect(words).toContain('Pairing PIN: 83-91-26')
    expect(words).toContain('corner &amp; desk')
    expect(readBack(text)).toBe(
      'vestibule:pair?site=studio-corner&board=corner&pairing-name=corner%20%26%20desk&pairing-pin=83-91-26',
    )
  })
})
