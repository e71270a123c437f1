import { createHmac } from 'node:crypto'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { createServer as createTcp } from 'node:net'
import { Aedes } from 'aedes'
import { afterEach, describe, expect, it } from 'vitest'
import { closeAll, House, open } from './house.testkit'

// The dry run against servers that know nothing of our tables: a broker of another hand and Node's own HTTP, each built
// from the same description as the kind.

afterEach(closeAll)

const listening = (server: Server | ReturnType<typeof createTcp>): Promise<string> =>
  new Promise((resolve) => {
    server.listen(0, '127.0.0.1', () => resolve(`127.0.0.1:${(server.address() as AddressInfo).port}`))
    open.push({ close: () => void server.close() })
  })

interface Found {
  readonly ok: boolean
  readonly lines: string[]
}
const dryRun = async (house: House, service: string, address: string | null): Promise<Found> => {
  const answer = await house.server.ask('POST', house.path(`/services/${service}/dry-run`), { address })
  expect(answer.status, answer.text).toBe(200)
  return answer.json as Found
}

/** A letterbox: users with a key, and the last letter on its topic, sealed. */
async function letterbox(key: string, seal: string): Promise<string> {
  const aedes = await Aedes.createBroker()
  aedes.authenticate = (_client, user, password, done) => {
    const isIn = user === 'box' && password?.toString() === key
    done(isIn ? null : (Object.assign(new Error('no'), { returnCode: 4 }) as never), isIn)
  }
  const topic = 'box/box/letter'
  const letter = '{"letter":7}'
  const mac = createHmac('sha256', seal).update(`${topic}:${letter}`).digest('hex')
  aedes.publish(
    { topic, payload: Buffer.from(`${letter} ${mac}`), retain: true, qos: 0, cmd: 'publish', dup: false },
    () => undefined,
  )
  open.push({ close: () => new Promise<void>((resolve) => aedes.close(() => resolve())) })
  return listening(createTcp((socket) => aedes.handle(socket as never)))
}

describe('a dry run', () => {
  it('logs in at a broker and hears what it remembers, or says why it was refused', async () => {
    const house = await House.of(['letterbox'])
    const key = 'letterbox-access-key-box-0123456789'
    const right = await dryRun(house, 'letterbox', await letterbox(key, 'any'))
    expect(right.ok).toBe(true)
    expect(right.lines).toContain('Logged in.')
    expect(right.lines).toContain('Listening on box/box/in')
    expect(right.lines.at(-1)).toMatch(/^Received box\/box\/letter {2}\{"letter":7\} [0-9a-f]{20}/)
    const wrong = await dryRun(house, 'letterbox', await letterbox('another', 'any'))
    expect(wrong).toMatchObject({ ok: false })
    expect(wrong.lines.at(-1)).toBe('Refused: wrong user or password.')
  })

  it('reads from a server, and writes nothing', async () => {
    const house = await House.of(['ledger'])
    const asked: string[] = []
    const server = createServer((request, response) => {
      asked.push(`${request.method} ${request.url}`)
      const isIn = request.headers['x-account'] === 'ledger-access-key-box-0123456789'
      response.writeHead(isIn ? 200 : 401).end(isIn ? '1' : '')
    })
    const at = await listening(server)
    expect(await dryRun(house, 'ledger', at)).toEqual({
      ok: true,
      lines: [`As Box, to ${at}`, 'GET /entry/1', 'Answered 200  1', 'vp/1 is 1'],
    })
    await house.type('ledger/access-key/box', 'another-key-0123456789')
    expect((await dryRun(house, 'ledger', at)).ok).toBe(false)
    expect(asked).toEqual(['GET /entry/1', 'GET /entry/1'])
  })

  it('tries the stand-in of this machine where no address is given, and says what does not answer', async () => {
    const house = await House.of(['ledger', 'bell'])
    expect((await dryRun(house, 'ledger', null)).ok).toBe(true)
    expect((await dryRun(house, 'bell', null)).lines.at(-1)).toMatch(/^Connected/)
    const gone = await dryRun(house, 'ledger', '127.0.0.1:9')
    expect(gone.lines.at(-1)).toMatch(/^No answer/)
    expect(gone.ok).toBe(false)
    const key = 'ledger/access-key/box'
    expect((await house.server.ask('DELETE', house.path('/credentials'), { key })).status).toBe(200)
    const without = await dryRun(house, 'ledger', null)
    expect(without.ok).toBe(false)
    expect(without.lines).toContain('Not stored: Access key: Box. Enter what is missing under Credentials.')
    const answer = await house.server.ask('POST', house.path('/services/ledger/dry-run'), { address: 'http://x' })
    expect(answer.status).toBe(400)
  })
})
