import { afterEach, expect, it } from 'vitest'
import type { RigPaired } from '../core/api'
import { withHands } from '../core/outputs/kinds.testkit'
import { closeAll, House, open, settled } from './house.testkit'
import { intoServer, lampFanStrike } from './kinds.testkit'
import { testServer, until } from './server.testkit'

// Through the doors that the interface uses: a hand at the switches, a phone beside the board, the service's page.

afterEach(closeAll)

/** As kinds.testkit types it. */
const pin = '48151623'

it('a board of the rig deletes its credentials by hand, is ready to pair, refuses a wrong PIN, and is paired and obeys again', async () => {
  const server = await testServer({ seed: false })
  open.push(server)
  const house = new House(server, await intoServer(server, withHands(lampFanStrike(['provisioned']))))
  const hold = async (button: string, ms: number): Promise<void> => {
    await house.server.ask('POST', house.path('/rig/box/events'), { pin: button, level: 0 })
    await settled(ms)
    await house.server.ask('POST', house.path('/rig/box/events'), { pin: button, level: 1 })
  }
  const pair = async (said: string): Promise<RigPaired> => {
    const answer = await house.server.ask('POST', house.path('/rig/box/pairing'), { pin: said })
    expect(answer.status, answer.text).toBe(200)
    return answer.json as RigPaired
  }
  await house.rig(true)
  await house.ups('provisioned')
  expect((await house.board()).pairing).toBe('possible')
  // nobody listens before a hand has asked
  expect(await pair(pin)).toEqual({ kind: 'silent' })
  await hold('reset-button', 5_200)
  await until(async () => !(await house.isUp('provisioned')))
  await until(async () => !(await house.page('provisioned')).online['box'])
  await hold('pair-button', 3_200)
  await until(async () => (await house.board()).pairing === 'offered')
  // and says why it is not connected, while it waits
  expect((await house.board()).links).toMatchObject([{ state: 'down', note: 'its credentials are deleted' }])
  expect(await pair('00000000')).toEqual({ kind: 'wrong', left: 4 })
  expect(await pair(pin)).toEqual({ kind: 'done' })
  await house.ups('provisioned')
  expect((await house.board()).pairing).toBe('possible')
  const [lamp] = await house.points('provisioned')
  await house.touch('provisioned', lamp!, true)
  await until(async () => (await house.outputs())['lamp'] === 1)
}, 90_000)
