import { readFileSync } from 'node:fs'
import { produce } from 'immer'
import { afterEach, describe, expect, it } from 'vitest'
import type { ControllerImage } from '../../core/image'
import { buildController, secretsFile, type Build } from '../../core/outputs'
import { controllerOf, modemOf, readSite, type Controller, type Site } from '../../core/site'
import { lampFanStrike } from '../../core/outputs/kinds.testkit'
import { part, planned } from '../../core/outputs/setups.testkit'
import { ModemStandIn, NO_MODEM_FAULTS } from '../../server/standIns/modem'
import { avrSize, avrSupported, buildAvr, simulatorSupported, type NetworkFiles } from '../avr'
import { startLiveBoard, type LiveBoard } from '../avrLive'
import { firmwareFiles } from '../files'
import { THOROUGH } from './fuzz.testkit'
import { closeAll, mosquittoFor, onClose, pause, until } from './live.testkit'

// Sources of the checks: simavr, an independent simulator of the 8-bit core; mosquitto, an independent broker, and an
// independent client of MQTT for the phone. Between them a modem stand-in, written from ITU-T V.250 and 3GPP TS 27.007.

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const demo = parsed.value
const MICROSECOND = 16 // cycles
const LOGIN = { user: 'yard-pattern', password: 'k3y-0123456789abcdef' }
const APN = { apn: 'things.invalid', user: '', password: '' }

/** The build of production, with the secrets that a maker would fill in. */
function filesOf(site: Site, port: number, login = LOGIN): { build: Build; network: NetworkFiles } {
  const [{ id }] = site.controllers.filter((one) => one.link === 'modem') as [Controller]
  const build = buildController(site, id, firmwareFiles())
  const text = (name: string): string => build.files.find((file) => file.name === `firmware/${name}`)!.text
  const secrets: Record<string, string> = {
    'app/board-pattern': login.user,
    'app/board-pattern/yard': login.user,
    'app/board-key': login.password,
    'app/board-key/yard': login.password,
  }
  const place = { address: '127.0.0.1', port }
  return {
    build,
    network: {
      'wires_image.h': text('wires_image.h'),
      'modem_image.h': text('modem_image.h'),
      'secrets.h': secretsFile(
        site,
        controllerOf(site, id)!,
        { ...place, tls: false, ...login },
        (key) => secrets[key] ?? '',
        () => place,
      ),
    },
  }
}

interface Bench {
  readonly modem: ModemStandIn
  readonly board: LiveBoard
  readonly image: ControllerImage
  readonly program: string
}

/** The board with its modem, and power on. */
async function bench(port: number, login = LOGIN, network = APN, site = demo): Promise<Bench> {
  const { build, network: files } = filesOf(site, port, login)
  const program = await buildAvr(build.image, files)
  const { dialogue } = modemOf(site, controllerOf(site, 'yard')!)!
  const held: { board?: LiveBoard } = {}
  const modem = new ModemStandIn({
    dialogue,
    network,
    write: (bytes) => held.board?.write(bytes),
    startMs: 300,
    registerMs: 600,
  })
  held.board = await startLiveBoard(program, build.image, dialogue.baud, (bytes) => modem.takes(bytes))
  onClose(() => {
    modem.stop()
    void held.board!.stop()
  })
  return { modem, board: held.board, image: build.image, program }
}

const service = async () => {
  const live = await mosquittoFor(LOGIN.user, LOGIN.password)
  return { ...live, say: (topic: string, text: string): void => void live.client.publish(topic, text) }
}

/** How often it has come up and said everything: this comes last. */
const told = (heard: readonly string[]): number => heard.filter((line) => line.startsWith('entry/log modem:')).length

afterEach(closeAll)

/** Lamp, fan in steps and strike on the 8-bit board, its service of one kind. */
function overModem(kind: string): Site {
  const site = produce(lampFanStrike([kind]), (draft) => {
    const box = draft.controllers[0]!
    Object.assign(box, { board: 'eight-bit-5v', link: 'modem', modem: { apn: APN.apn, joinS: 30 }, pins: {} })
    box.parts.push(part('gsm-modem', 'Modem', ['level-shifter']))
  })
  return planned(structuredClone(site))
}

describe.skipIf(!avrSupported())('lamp, fan and strike on the 8-bit board with a modem', () => {
  // the one without a wire, the one whose wishes stand in documents, and the one that signs: all others take less
  it.each(['broker', 'provisioned', 'voice-bridge'])(
    '%s fits into its flash and its memory',
    async (kind) => {
      const { build, network } = filesOf(overModem(kind), 18_900)
      const { flash, memory } = await avrSize(await buildAvr(build.image, network))
      console.log(`${kind} over a modem: ${flash} bytes of flash, ${memory} of memory before the stack`)
      // the loader has 512 bytes of 32 KiB
      expect(flash).toBeLessThanOrEqual(31.5 * 1024)
    },
    60_000,
  )
})

describe.skipIf(!simulatorSupported())('the 8-bit board with a modem, end to end on the simulated core', () => {
  it('a message over an independent broker turns the relay, and a press comes back', async () => {
    const { port, heard, say } = await service()
    const { modem, board, program } = await bench(port)
    const began = Date.now()
    await until(() => heard.some((line) => line.startsWith('entry/log modem:')), 'the modem is told of', 20_000)
    const joined = Date.now() - began
    // full state, then the tables' hash, then how the modem stands
    expect(heard.slice(0, 3)).toEqual(['entry/status online', 'point/1/is 0', 'point/2/is 0'])
    expect(heard[3]).toMatch(/^entry\/log tables [0-9a-f]+$/)
    expect(heard[4]).toMatch(/^entry\/log modem: signal 17 of 31, at home, restarts 0, bytes \d+$/)
    say('entry/count', '7')
    await pause(600)
    const asked = Date.now()
    say('point/1/ask', '1 8')
    await until(() => board.isClosed('yard-lights'), 'the lights are on')
    const turned = Date.now() - asked
    await until(() => heard.includes('point/1/is 1'), 'the phone sees it')
    const seen = Date.now() - asked
    // the same wish again, as a broker may send it twice, does nothing
    const before = board.outputs.length
    say('point/1/ask', '0 8')
    await pause(800)
    expect(board.outputs.length).toBe(before)
    const pressed = Date.now()
    board.press('s9', true)
    await until(() => heard.filter((line) => line === 'point/1/is 0').length === 2, 'the press is told')
    const back = Date.now() - pressed
    board.press('s9', false)
    await pause(300)
    const { memory, worstCycles, troubles } = await board.stop()
    const { flash } = await avrSize(program)
    console.log(
      `8-bit board with modem: ${flash} bytes of flash, ${memory} of memory with its stack, worst pass ` +
        `${Math.round(worstCycles / MICROSECOND)} µs; joined and told in ${joined} ms, wish to relay ${turned} ms and ` +
        `to the phone ${seen} ms, press to the phone ${back} ms; ${modem.bytes} bytes over the connection`,
    )
    expect(troubles).toEqual([])
    expect(flash).toBeLessThanOrEqual(28 * 1024)
    expect(memory).toBeLessThanOrEqual(1.9 * 1024)
    // a pass that is longer than a millisecond holds up the next: a press is at most that much later
    expect(worstCycles / MICROSECOND).toBeLessThan(2000)
    expect(modem.restarts).toBe(0)
  }, 90_000)

  // what waits for real patience is played when the firmware alone is tested
  it.skipIf(!THOROUGH)(
    'the strike: once for a wish, never for what is sent again; the wall never waits for the network',
    async () => {
      const { port, heard, say } = await service()
      const { board, modem, image } = await bench(port)
      const strikes = (): number =>
        board.outputs.filter(({ out, level }) => out === 'gate-strike' && level === 1).length
      // before the modem has its network the wall works
      await pause(150)
      board.press('s9', true)
      await until(() => board.isClosed('yard-lights'), 'the wall works without a network', 3000)
      expect(heard).toEqual([])
      board.press('s9', false)
      await until(() => heard.some((line) => line.startsWith('entry/log modem:')), 'joined', 20_000)
      say('entry/count', '1')
      await pause(600)
      say('point/2/ask', '1 2')
      await until(() => strikes() === 1, 'the strike opens')
      say('point/2/ask', '1 2')
      await pause(1500)
      expect(strikes()).toBe(1)
      // the network drops the connection: it comes back, and nothing of before is done again
      modem.cut()
      const before = told(heard)
      await until(() => told(heard) > before, 'it is back', 30_000)
      say('entry/count', '2')
      await pause(600)
      say('point/2/ask', '1 2')
      await pause(1500)
      expect(strikes()).toBe(1)
      await pause(image.channels.find(({ id }) => id === 'gate-strike')!.minOffMs)
      say('point/2/ask', '1 3')
      await until(() => strikes() === 2, 'the strike opens for a new wish, once its least time off is over')
    },
    90_000,
  )

  it.skipIf(!THOROUGH)(
    'a modem that has no network yet is asked again, one that falls silent is started anew, and both end well',
    async () => {
      const { port, heard } = await service()
      const { modem, board } = await bench(port)
      modem.faults = { ...NO_MODEM_FAULTS, unregistered: true, signal: 99 }
      await until(() => modem.commands.filter((line) => line === 'AT+CREG?').length >= 3, 'it asks again', 20_000)
      expect(heard).toEqual([])
      modem.faults = NO_MODEM_FAULTS
      await until(() => heard.includes('entry/status online'), 'it joins', 20_000)
      // silent while it is to send: the board starts it anew
      modem.faults = { ...NO_MODEM_FAULTS, silent: true }
      board.press('s9', true)
      await pause(6500)
      modem.faults = NO_MODEM_FAULTS
      const before = told(heard)
      await until(() => told(heard) > before, 'it is back after a restart', 40_000)
      expect(heard.at(-1)).toMatch(/restarts [12],/)
      expect(heard.lastIndexOf('point/1/is 1')).toBeGreaterThan(heard.indexOf('point/1/is 0'))
      expect((await board.stop()).troubles).toEqual([])
    },
    120_000,
  )

  it.skipIf(!THOROUGH)(
    'a wrong login is refused by the service, a wrong access point by the network; the wall works through both',
    async () => {
      const { port, heard } = await service()
      const wrongLogin = await bench(port, { ...LOGIN, password: 'another' })
      const wrongApn = await bench(port, LOGIN, { ...APN, apn: 'other.invalid' })
      await until(
        () => wrongLogin.modem.commands.filter((line) => line.startsWith('AT+WIREOPEN')).length >= 2,
        'it tries',
        30_000,
      )
      await until(
        () => wrongApn.modem.commands.filter((line) => line === 'AT+CGACT=1,1').length >= 2,
        'it tries',
        30_000,
      )
      expect(wrongApn.modem.commands.some((line) => line.startsWith('AT+WIREOPEN'))).toBe(false)
      expect(heard).toEqual([])
      for (const { board } of [wrongLogin, wrongApn]) {
        board.press('s9', true)
        await until(() => board.isClosed('yard-lights'), 'the wall works', 3000)
      }
    },
    90_000,
  )

  it.skipIf(!THOROUGH)(
    'above the data limit of the day it reports at most once a minute, and obeys as before',
    async () => {
      const { port, heard, say } = await service()
      const thrifty = produce(demo, (draft) => {
        controllerOf(draft, 'yard')!.modem!.kilobytesADay = 2
      })
      const { board, modem } = await bench(port, LOGIN, APN, thrifty)
      await until(() => heard.some((line) => line.startsWith('entry/log tables')), 'joined', 20_000)
      say('entry/count', '1')
      // each wish and its report is some of it, until it is above the limit
      for (let count = 2; modem.bytes < 2_000 && count < 40; count++) {
        say('point/1/ask', `${count % 2} ${count}`)
        await pause(700)
      }
      const reports = (): string[] => heard.filter((line) => line.startsWith('point/1/is'))
      const before = reports().length
      const wasClosed = board.isClosed('yard-lights')
      for (let count = 50; count < 56; count++) {
        const value = (count % 2 === 0) === wasClosed ? 0 : 1
        say('point/1/ask', `${value} ${count}`)
        await until(() => board.isClosed('yard-lights') === (value === 1), 'a wish is obeyed at once', 3000)
        await pause(2000)
      }
      expect(reports().length - before).toBeLessThanOrEqual(1)
      // what it ends with is told, once its minute is over
      await until(() => reports().at(-1) === `point/1/is ${wasClosed ? 1 : 0}`, 'it tells how it stands', 70_000)
      expect(reports().length - before).toBeLessThanOrEqual(2)
      expect(modem.restarts).toBe(0)
    },
    150_000,
  )
})
