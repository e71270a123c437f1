import mqtt, { type MqttClient } from 'mqtt'
import { afterEach, describe, expect, it } from 'vitest'
import { parse } from 'yaml'
import { buildController } from '../core/outputs'
import { hang, planned } from '../core/outputs/setups.testkit'
import { addServiceOfKind, DATAPOINT_WIRE, setWire } from '../core/services'
import { emptySite, newController, newInput, newSwitched, type Site } from '../core/site'
import { addHubWay, addWallWay } from '../core/ways'
import { every } from '../firmware/test/fuzz.testkit'
import { closeAll, House, open, settled } from './house.testkit'
import { intoServer, lampFanStrike } from './kinds.testkit'
import { provePlan } from './rigKinds.testkit'
import { testServer, until } from './server.testkit'

// The real thing, through the doors that the interface uses: a site is put in, its credentials are typed, its firmware
// is compiled and run, and fingers, phones and hubs are held against what the pins do.

afterEach(closeAll)

describe.each(every(2, ['datapoint', 'variable']))('a site on a %s service', (kind) => {
  it('works from finger to phone and from phone to pin, for lamp, fan and strike', async () => {
    const house = await House.of([kind])
    await house.rig(true)
    await house.ups(kind)
    expect((await house.page(kind)).online['box']).toBe(true)
    // finger → controller → service
    await house.press('lamp-button')
    await until(async () => (await house.page(kind)).values['lamp'] === 1)
    // phone → service → controller → pin
    await settled(1100) // the plan's least time between two values of a point
    await house.touch(kind, 'lamp', false)
    await until(async () => (await house.outputs())['lamp'] === 0)
    await house.touch(kind, 'fan', true, 2)
    await until(async () =>
      Object.entries(await house.outputs()).some(([name, on]) => name.startsWith('fan') && on === 1),
    )
    await until(async () => (await house.page(kind)).values['fan'] === 2)
    await house.touch(kind, 'strike', true)
    await until(async () => (await house.closings('strike')) === 1)
  }, 120_000)

  it('says so when the plan is used up, and works again with a larger one', async () => {
    const house = await House.of([kind])
    await house.rig(true)
    await house.ups(kind)
    await provePlan(house, kind, kind)
  }, 120_000)

  it('refuses a wrong key, says so on both sides, and the wall works all the same', async () => {
    const house = await House.of([kind])
    const key = kind === 'datapoint' ? 'datapoint/board-key/box' : 'variable/once-key/box'
    await house.rig(true)
    await house.ups(kind)
    await house.type(key, 'another-key-0123456789')
    await house.said(/closed by the other end/)
    await house.said(/refused: wrong user or password/)
    const page = await house.page(kind)
    expect(page.refused.at(-1)!.text).toMatch(/wrong or missing key/)
    expect(page.online['box']).toBe(false)
    await house.press('lamp-button')
    await until(async () => (await house.outputs())['lamp'] === 1)
  }, 120_000)

  it.each(['local', 'service'] as const)(
    'after an outage the %s side wins',
    async (winner) => {
      const house = await House.of([kind], winner)
      await house.rig(true)
      await house.ups(kind)
      await house.touch(kind, 'lamp', true)
      await until(async () => (await house.outputs())['lamp'] === 1)
      await settled(1100)
      await house.faults(kind, { stopped: true })
      await until(async () => !(await house.isUp(kind)))
      await house.press('lamp-button')
      await until(async () => (await house.outputs())['lamp'] === 0)
      expect((await house.page(kind)).values['lamp']).toBe(1)
      await house.faults(kind, {})
      await house.ups(kind)
      if (winner === 'local') await until(async () => (await house.page(kind)).values['lamp'] === 0)
      else await until(async () => (await house.outputs())['lamp'] === 1)
    },
    120_000,
  )

  it.skipIf(kind === 'variable')(
    'a service that sends wishes again, at once and after an outage, opens the strike once',
    async () => {
      const house = await House.of([kind])
      await house.rig(true)
      await house.ups(kind)
      await house.faults(kind, { replay: true })
      await house.touch(kind, 'strike', true)
      await house.said(/a wish that was sent before, ignored/)
      // longer than the pulse and its lockout
      await settled(7000)
      await house.faults(kind, { stopped: true, replay: true })
      await until(async () => !(await house.isUp(kind)))
      await house.faults(kind, { replay: true })
      await house.ups(kind)
      await settled(1500)
      expect(await house.closings('strike')).toBe(1)
    },
    120_000,
  )
})

describe('a hub on the broker of the house', () => {
  it('works from finger to screen and from screen to pin, for lamp, fan and strike', async () => {
    const house = await House.of(['broker'])
    await house.rig(true)
    await house.ups('house')
    await until(async () => (await house.hub()).connected)
    await until(async () => (await house.hub()).online['box'] === true)
    await house.press('lamp-button')
    await until(async () => (await house.hub()).beliefs[await house.entity('lamp')] === 1)
    await house.says('lamp', 'off')
    await until(async () => (await house.outputs())['lamp'] === 0)
    await house.says('fan', '2')
    await until(async () =>
      Object.entries(await house.outputs()).some(([name, on]) => name.startsWith('fan') && on === 1),
    )
    await until(async () => (await house.hub()).beliefs[await house.entity('fan')] === 2)
    await house.says('strike', 'pulse')
    await until(async () => (await house.closings('strike')) === 1)
    await house.says('lamp', 'nonsense')
    expect((await house.hub()).refused.at(-1)!.text).toMatch(/“nonsense” is no command/)
    await house.says('fan', '9')
    expect((await house.hub()).refused.at(-1)!.text).toMatch(/“9” is no command/)
    // with the rig the hub ends: nobody is left to send a heartbeat
    await house.rig(false)
    await until(async () => !(await house.hub()).running)
  }, 120_000)

  it('a wrong password is refused, said on both sides, and the wall works all the same', async () => {
    const house = await House.of(['broker'])
    await house.rig(true)
    await house.ups('house')
    const key = 'controller box/broker password'
    expect((await house.server.ask('DELETE', house.path('/credentials'), { key })).status).toBe(200)
    await house.said(/refused: not authorised/)
    await until(async () => (await house.hub()).refused.some(({ text }) => /\.box: wrong user or password/.test(text)))
    await until(async () => (await house.hub()).online['box'] === false)
    await house.press('lamp-button')
    await until(async () => (await house.outputs())['lamp'] === 1)
  }, 120_000)

  it('while it is stopped the wall works; when it is back it knows; what it says twice opens a strike once', async () => {
    const house = await House.of(['broker'])
    await house.rig(true)
    await house.ups('house')
    await until(async () => (await house.hub()).connected)
    await house.hubFaults({ stopped: true })
    await until(async () => !(await house.hub()).connected)
    await house.says('lamp', 'on')
    expect((await house.hub()).refused.at(-1)!.text).toMatch(/the hub is stopped/)
    await house.press('lamp-button')
    await until(async () => (await house.outputs())['lamp'] === 1)
    await house.hubFaults({ replay: true })
    await until(async () => (await house.hub()).beliefs[await house.entity('lamp')] === 1)
    await house.says('strike', 'pulse')
    await until(async () => (await house.closings('strike')) === 1)
    await settled(1500)
    expect(await house.closings('strike')).toBe(1)
  }, 120_000)

  it('opens the broker with what its own secrets file says, the same each time, and with nothing else', async () => {
    const house = await House.of(['broker'])
    const { site } = (await house.server.ask('GET', house.path(''))).json as { site: { hubs: { id: string }[] } }
    const hub = site.hubs[0]!.id
    const secrets = async (): Promise<Record<string, string>> =>
      parse((await house.server.ask('POST', house.path(`/hubs/${hub}/secrets`))).text) as Record<string, string>
    const file = await secrets()
    expect(await secrets()).toEqual(file)
    const enter = async (password: string): Promise<MqttClient> => {
      const client = mqtt.connect(house.server.brokerUrl, {
        ...{ username: file[`${hub}/user`]!, password, clientId: 'a-hub', reconnectPeriod: 0, protocolVersion: 4 },
      })
      open.push({ close: () => client.endAsync(true) })
      await new Promise((resolve, reject) => client.once('connect', resolve).once('error', reject))
      return client
    }
    await expect(enter('another')).rejects.toThrow(/Not authorized/)
    await house.rig(true)
    await house.ups('house')
    const client = await enter(file[`${hub}/password`]!)
    const heard: string[] = []
    client.on('message', (topic, payload) => heard.push(`${topic.split('/')[3]} ${payload.toString()}`))
    await client.subscribeAsync(`vestibule/${house.site}/+/+/state`)
    await client.publishAsync(`vestibule/${house.site}/box/lamp/set`, 'on')
    await until(() => heard.some((line) => line.startsWith('lamp {"on":true')))
    expect((await house.outputs())['lamp']).toBe(1)
  }, 120_000)
})

describe('a box of a mesh hub, which nobody programs', () => {
  const meshSite = (): Site => {
    const site = emptySite('Mesh')
    const box = newController(site, 'Box', 'mesh-multi-relay', {})
    site.controllers.push(box)
    addServiceOfKind(site, 'mesh')
    const lamp = hang(site, newSwitched(site, 'Lamp', box), { type: 'led', watts: 20 })
    const button = newInput(site, 'Lamp button', box, 'momentary')
    site.inputs.push(button)
    addWallWay(site, lamp, button)
    addHubWay(site, lamp)
    return planned(site)
  }
  const started = async (): Promise<House> => {
    const server = await testServer({ seed: false })
    open.push(server)
    return new House(server, await intoServer(server, meshSite()))
  }

  it('is included with the network key of its hub, which then knows and works it; with another key it is gone', async () => {
    const house = await started()
    const key = 'hub/network-key'
    expect((await house.server.ask('DELETE', house.path('/credentials'), { key })).status).toBe(200)
    await house.rig(true)
    await until(async () => /cannot be included: the network key/.test((await house.board()).trouble ?? ''))
    await house.type(key, 'network-key-0123456789')
    await house.rig(true)
    await house.ups('house')
    await house.press('lamp-button')
    await until(async () => (await house.hub()).beliefs[await house.entity('lamp')] === 1)
    await house.says('lamp', 'off')
    await until(async () => (await house.outputs())['lamp'] === 0)
    await house.type(key, 'another-key-0123456789')
    await until(async () => /include the box again/.test((await house.board()).trouble ?? ''))
    await until(async () => (await house.hub()).online['box'] === false)
  }, 120_000)

  it('has steps and parameters in its build, and no firmware', async () => {
    const site = meshSite()
    const files = buildController(site, 'box', []).files.map(({ name }) => name)
    expect(files.some((name) => name.startsWith('firmware/'))).toBe(false)
  })
})

describe('two services and a hub on one controller', () => {
  it('with one of them dead the others go on unharmed, each with its own point of the lamp', async () => {
    const house = await House.of(['broker', 'datapoint', 'variable'])
    await house.rig(true)
    await house.ups('house', 'datapoint', 'variable')
    await house.faults('datapoint', { stopped: true })
    await until(async () => !(await house.isUp('datapoint')))
    await house.touch('variable', 'lamp', true)
    await until(async () => (await house.outputs())['lamp'] === 1)
    await until(async () => (await house.page('variable')).values['lamp'] === 1)
    expect((await house.page('datapoint')).values['lamp']).toBe(0)
    expect(await house.isUp('house')).toBe(true)
    await house.faults('datapoint', {})
    await house.ups('datapoint')
    await until(async () => (await house.page('datapoint')).values['lamp'] === 1)
  }, 120_000)
})

describe('a wire that leads out of the house, over TLS', () => {
  it('is tried here with its stand-in, by the rig and by the dry run: nothing leaves this machine', async () => {
    const site = lampFanStrike(['datapoint'])
    setWire(site, 'datapoint', { ...DATAPOINT_WIRE, host: 'things.invalid', port: 8_883, tls: true })
    const server = await testServer({ seed: false })
    open.push(server)
    const house = new House(server, await intoServer(server, site))
    await house.rig(true)
    await house.ups('datapoint')
    const found = await server.ask('POST', house.path('/services/datapoint/dry-run'), { address: null })
    expect(found.json).toMatchObject({ ok: true })
  }, 120_000)
})

describe('what a service refuses beside a wrong key', () => {
  it('a device too many, and a service that loses messages ends with the truth all the same', async () => {
    const house = await House.of(['datapoint'])
    await house.rig(true)
    await house.ups('datapoint')
    const { site } = (await house.server.ask('GET', house.path(''))).json as {
      site: { profiles: { services: unknown[] } }
    }
    expect(site.profiles.services).toEqual([])
    await house.faults('datapoint', { lose: true })
    for (let i = 0; i < 4; i++) {
      await house.press('lamp-button')
      await settled(300)
    }
    await house.faults('datapoint', {})
    expect((await house.page('datapoint')).used.month).toBeGreaterThan(0)
    await house.press('lamp-button')
    await until(async () => (await house.page('datapoint')).values['lamp'] === (await house.outputs())['lamp'])
  }, 120_000)
})
