import { expect, it } from 'vitest'
import { House, settled } from './house.testkit'
import { until } from './server.testkit'

/**
 * A kind with a wire of its own. `id`: of the service or hub; `key`: the credential that opens it; `says` and `logs`:
 * what its page and the board say of a wrong one.
 */
export interface WiredKind {
  readonly kind: string
  readonly id: string
  readonly key: string
  readonly says: RegExp
  readonly logs: RegExp
}

const CALLED: readonly string[] = ['commissioning', 'web-hook', 'bell']
/** What is read is a state, and no state opens a door. */
const READ: readonly string[] = ['room-store', 'ledger']

/** Finger to screen, screen to pin, wrong credentials on both sides, outages and what is sent twice. */
export function proveKind({ kind, id, key, says, logs }: WiredKind): void {
  const started = async (outage: 'local' | 'service' = 'local') => {
    const house = await House.of([kind], outage)
    await house.rig(true)
    await house.ups(id)
    return house
  }

  it('works both ways for lamp and fan; a strike where it can be asked once', async () => {
    const house = await started()
    const [lamp, fan, strike] = await house.points(id)
    await house.press('lamp-button')
    await until(async () => (await house.page(id)).values[lamp!] === 1)
    await settled(1100)
    await house.touch(id, lamp!, false)
    await until(async () => (await house.outputs())['lamp'] === 0)
    await house.touch(id, fan!, true, 2)
    await until(async () =>
      Object.entries(await house.outputs()).some(([name, on]) => name.startsWith('fan') && on === 1),
    )
    await until(async () => (await house.page(id)).values[fan!] === 2)
    await house.touch(id, strike!, true)
    if (READ.includes(kind)) await settled(5000)
    else await until(async () => (await house.closings('strike')) === 1)
    expect(await house.closings('strike')).toBe(READ.includes(kind) ? 0 : 1)
  }, 120_000)

  it('refuses a wrong key, says so on both sides, and the wall works all the same', async () => {
    const house = await started()
    const [lamp] = await house.points(id)
    await house.type(key, key.endsWith('box') ? '99887766' : 'another-key-0123456789')
    await house.touch(id, lamp!, true)
    await house.said(logs)
    await until(async () => (await house.page(id)).refused.some(({ text }) => says.test(text)))
    expect((await house.outputs())['lamp']).toBe(0)
    await house.press('lamp-button')
    await until(async () => (await house.outputs())['lamp'] === 1)
  }, 120_000)

  it.skipIf(CALLED.includes(kind))(
    'after an outage the local side wins, and says what is',
    async () => {
      const house = await started()
      const [lamp] = await house.points(id)
      await house.touch(id, lamp!, true)
      await until(async () => (await house.outputs())['lamp'] === 1)
      await settled(1100)
      await house.faults(id, { stopped: true })
      await until(async () => !(await house.isUp(id)))
      await house.press('lamp-button')
      await until(async () => (await house.outputs())['lamp'] === 0)
      expect((await house.page(id)).values[lamp!]).toBe(1)
      await house.faults(id, {})
      await house.ups(id)
      await until(async () => (await house.page(id)).values[lamp!] === 0)
    },
    120_000,
  )

  it.skipIf(READ.includes(kind))(
    'what is sent twice opens the strike once',
    async () => {
      const house = await started()
      const [, , strike] = await house.points(id)
      await house.faults(id, { replay: true })
      await house.touch(id, strike!, true)
      await until(async () => (await house.closings('strike')) === 1)
      // not even the runtime hears of it: it would say that the pulse runs already
      if (!CALLED.includes(kind)) await house.said(/a wish that was sent before, ignored/)
      else await settled(1000)
      expect((await house.board()).said.filter(({ text }) => /pulse running|locked/.test(text))).toEqual([])
      expect(await house.closings('strike')).toBe(1)
    },
    120_000,
  )

  it(
    'says so when the plan is used up, and works again with a larger one; the wall works all the while',
    async () => provePlan(await started(), kind, id),
    120_000,
  )
}

/** A plan of one message a day, and then a large one. */
export async function provePlan(house: House, kind: string, id: string): Promise<void> {
  const [lamp] = await house.points(id)
  await house.limit(kind, { messagesDay: 1 })
  await house.press('lamp-button')
  await until(async () => (await house.page(id)).refused.some(({ text }) => /messages are used up/.test(text)))
  expect((await house.outputs())['lamp']).toBe(1)
  await house.press('lamp-button')
  await until(async () => (await house.outputs())['lamp'] === 0)
  await house.limit(kind, { messagesDay: 100_000 })
  await house.ups(id)
  await house.press('lamp-button')
  await until(async () => (await house.page(id)).values[lamp!] === 1)
}
