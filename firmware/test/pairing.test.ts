import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { createServer, connect as connectTo, type AddressInfo, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { MqttClient } from 'mqtt'
import { afterEach, describe, expect, it } from 'vitest'
import { compileController, type ControllerImage } from '../../core/image'
import { lampFanStrike, withHands } from '../../core/outputs/kinds.testkit'
import { PAIRING } from '../../core/services'
import type { Site } from '../../core/site'
import { compileWires, pairingGreeting, pairingLines, type ControllerWires } from '../../core/wires'
import { buildHost, WIRES_DIR } from '../host'
import { closeAll, mosquittoFor, onClose, pause, until } from './live.testkit'

// Sources of the checks: the words of docs/wires.md, "Pairing"; mosquitto, an independent broker, on which the board
// must come with what the phone gave it and with nothing else.

const PIN = '48151623'
const LOGIN = { name: 'pottery-lamp', pin: PIN }
const HOUSE = { name: 'Pottery', password: 'dry clay 7' }
const NEXT = { name: 'Barn', password: 'wet clay 9' }

/** Lamp, fan and strike at a device service that pairs, with a button for each: 3 s pairs, 5 s forgets. */
const site = (): Site => withHands(lampFanStrike(['provisioned']))

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as AddressInfo
      probe.close(() => resolve(port))
    })
  })

/** The board as a process that knows nothing but its PIN; its store outlives it, and so does the air around it. */
class Board {
  readonly said: Record<string, unknown>[] = []
  child: ChildProcess | null = null
  constructor(
    private readonly program: string,
    readonly image: ControllerImage,
    readonly port: number,
    private readonly folder: string,
  ) {
    onClose(() => this.powerOff())
  }
  powerOn(): void {
    const env = {
      VESTIBULE_PAIRING_PORT: String(this.port),
      VESTIBULE_STORE: join(this.folder, 'store'),
      VESTIBULE_AIR: join(this.folder, 'air'),
    }
    this.said.length = 0
    this.child = spawn(this.program, ['live'], { env, stdio: ['pipe', 'pipe', 'inherit'] })
    let rest = ''
    this.child.stdout!.on('data', (data: Buffer) => {
      const lines = (rest + data.toString()).split('\n')
      rest = lines.pop()!
      for (const line of lines) if (line) this.said.push(JSON.parse(line) as Record<string, unknown>)
    })
  }
  powerOff(): void {
    this.child?.kill('SIGKILL')
    this.child = null
  }
  async holds(input: string, ms: number): Promise<void> {
    const id = this.image.inputs.find((one) => one.id === input)!.id
    // what is closed before it has settled once counts for nothing
    await pause(100)
    const level = (value: number): void => void this.child!.stdin!.write(`{"t":0,"pin":"${id}","level":${value}}\n`)
    level(0)
    await pause(ms)
    level(1)
  }
  has(what: (line: Record<string, unknown>) => boolean): boolean {
    return this.said.some(what)
  }
  pairing(how: string): boolean {
    return this.has((line) => line['pairing'] === how)
  }
  setAir(...networks: readonly { readonly name: string; readonly password: string }[]): void {
    writeFileSync(join(this.folder, 'air'), networks.map(({ name, password }) => `${name}\t${password}\n`).join(''))
  }
}

/** Says lines over the short range, and hears what the board answers until it hangs up or falls silent. */
function phone(port: number, text: string, longestMs = 800): Promise<string> {
  return new Promise((resolve) => {
    let heard = ''
    const socket: Socket = connectTo(port, '127.0.0.1', () => socket.write(text))
    const ends = (): void => {
      socket.destroy()
      resolve(heard)
    }
    socket.on('data', (data) => (heard += data.toString()))
    socket.on('error', ends)
    socket.on('close', ends)
    setTimeout(ends, longestMs)
  })
}

async function bench(): Promise<{
  board: Board
  wires: ControllerWires
  heard: string[]
  client: MqttClient
  text: (network: typeof HOUSE) => string
}> {
  const folder = mkdtempSync(join(tmpdir(), 'vestibule-pairing-'))
  const { port, client, heard } = await mosquittoFor(LOGIN.name, LOGIN.pin)
  const made = site()
  const image = compileController(made, made.controllers[0]!.id)
  const wires = compileWires(made, image)
  const service = made.services[0]!.id
  const secrets: Record<string, string> = {
    [`${service}/pairing-pin/${image.controller}`]: PIN,
    [`${service}/pairing-name/${image.controller}`]: LOGIN.name,
    [`${service}/port`]: String(port),
  }
  const only = wires.pin!.map((part) => (typeof part === 'string' ? part : part.secret)).join('')
  expect(secrets[only]).toBe(PIN)
  // secrets.h of a board that was never told anything: its PIN, and empty lines
  const upper = service.toUpperCase().replace(/[^A-Z0-9]+/g, '_')
  const { program } = await buildHost(image, {
    wires,
    secrets:
      `#define VESTIBULE_${upper}_PAIRING_PIN "${PIN}"\n#define VESTIBULE_${upper}_PAIRING_NAME ""\n` +
      `#define VESTIBULE_${upper}_ADDRESS ""\n#define VESTIBULE_${upper}_PORT 1\n`,
  })
  const board = new Board(program, image, await freePort(), folder)
  const placed = {
    ...wires,
    links: wires.links.map((link) => ({
      ...link,
      ...('place' in link ? { place: { ...link.place, address: ['127.0.0.1'] } } : {}),
    })),
  } as ControllerWires
  const text = (network: typeof HOUSE): string =>
    `${pairingLines(placed, network, (key) => secrets[key] ?? '').join('\n')}\n`
  return { board, wires, heard, client, text }
}

afterEach(closeAll)

it('board and sheet agree on how long, and how often', () => {
  const text = readFileSync(join(WIRES_DIR, 'pairing.h'), 'utf8')
  const number = (name: string): number => Number(new RegExp(`${name} = (\\d+);`).exec(text)![1])
  expect([number('OFFER_MS'), number('MOST_WRONG'), number('CLOSED_MS')]).toEqual([
    PAIRING.offerMs,
    PAIRING.mostWrong,
    PAIRING.closedMs,
  ])
})

describe('pairing, from first power to first command', () => {
  it('offers itself, refuses wrong PINs and counts them, joins with what it is told, keeps it, forgets it, and is paired anew', async () => {
    const { board, heard, client, text } = await bench()
    board.setAir(HOUSE)
    board.powerOn()
    await until(() => board.pairing('offered'), 'it offers itself at its first power')
    // wrong ones are counted; the fifth closes, and then the right one is no better
    for (let left = 4; left >= 1; left--)
      expect(await phone(board.port, pairingGreeting(`0000000${left}`), 200)).toBe(`wrong ${left}\n`)
    expect(await phone(board.port, pairingGreeting('nonsense'), 200)).toBe('wait 600\n')
    expect(await phone(board.port, pairingGreeting(PIN), 200)).toMatch(/^wait (600|59\d)\n$/)
    expect(await phone(board.port, pairingGreeting(''), 200)).toMatch(/^wait/)
    board.powerOff()
    board.powerOn()
    await until(() => board.pairing('offered'), 'it offers itself anew after a power cut')
    // what breaks off before its end, or says what nobody knows, leaves nothing
    expect(await phone(board.port, `${pairingGreeting(PIN)}network ${HOUSE.name}\n`, 300)).toMatch(
      /^ok bench\/box [0-9a-f]+\n$/,
    )
    expect(await phone(board.port, `${pairingGreeting(PIN)}colour blue\nend\n`, 300)).toMatch(/\nbad colour\n$/)
    expect(await phone(board.port, `${pairingGreeting(PIN)}network ${'x'.repeat(33)}\nend\n`, 300)).toMatch(
      /\nbad network\n$/,
    )
    expect(await phone(board.port, `${pairingGreeting(PIN)}secret ${'x'.repeat(400)}\nend\n`, 300)).toMatch(
      /\nbad secret\n$/,
    )
    expect(board.pairing('paired')).toBe(false)
    expect(heard).toEqual([])
    // the phone with its PIN
    expect(await phone(board.port, pairingGreeting(PIN) + text(HOUSE))).toMatch(/^ok bench\/box [0-9a-f]+\ndone\n$/)
    await until(() => heard.includes('device/state {"online":true}'), 'it is online with what it was told')
    client.publish('settings/count', '{"count":4}')
    await pause(150)
    const point = heard.map((line) => /^settings\/(\S+)\/is /.exec(line)?.[1]).find((key) => key?.includes('lamp'))!
    client.publish(`settings/${point}/want`, '{"value":1,"count":5}')
    await until(
      () => board.has((line) => line['out'] === 'lamp' && line['level'] === 1),
      'the first command turns the lamp on',
    )
    // nobody can pair it now: it offers nothing
    expect(await phone(board.port, pairingGreeting(PIN), 300)).toBe('')
    // power gone and back: by itself
    board.powerOff()
    await until(() => heard.includes('device/state {"online":false}'), 'its will is said')
    const before = heard.length
    board.powerOn()
    await until(() => heard.slice(before).includes('device/state {"online":true}'), 'it comes back by itself')
    expect(board.pairing('offered')).toBe(false)
    // a hand forgets it, over a power cut too
    await board.holds('reset-button', 5_200)
    await until(() => board.has((line) => line['do'] === 'reset'), 'it forgets')
    await until(() => heard.at(-1) === 'device/state {"online":false}', 'it is offline')
    board.powerOff()
    const forgotten = heard.length
    board.powerOn()
    await until(() => board.pairing('offered'), 'it offers itself, as at its first power')
    await pause(1500)
    expect(heard.slice(forgotten).filter((line) => line.includes('true'))).toEqual([])
    // to another network, while the first is no longer there
    board.setAir(NEXT)
    expect(await phone(board.port, pairingGreeting(PIN) + text(NEXT))).toMatch(/done\n$/)
    await until(() => heard.slice(forgotten).includes('device/state {"online":true}'), 'it is on the other network')
    // a hand pairs it while it is paired: the old is kept until a phone has said everything
    await board.holds('pair-button', 3_200)
    await until(() => board.pairing('offered'), 'a hand makes it offer itself')
    expect(await phone(board.port, `${pairingGreeting(PIN)}network Nowhere\n`, 300)).toMatch(/^ok/)
    board.powerOff()
    const last = heard.length
    board.powerOn()
    await until(() => heard.slice(last).includes('device/state {"online":true}'), 'it is where it was')
  }, 90_000)

  it('with a wrong network or a wrong login it does not join, and the switches work all the same', async () => {
    const { board, heard, text } = await bench()
    board.setAir(NEXT)
    board.powerOn()
    await until(() => board.pairing('offered'), 'it offers itself')
    expect(await phone(board.port, pairingGreeting(PIN) + text(HOUSE))).toMatch(/done\n$/)
    await pause(1500)
    expect(heard).toEqual([])
    expect(board.child!.exitCode).toBeNull()
    await board.holds('pair-button', 3_200)
    await until(() => board.said.filter((line) => line['pairing'] === 'offered').length === 2, 'it offers itself again')
    const wrong = text(NEXT).replace(/password \S+ \S+/, (line) => `${line.split(' ').slice(0, 2).join(' ')} another`)
    expect(await phone(board.port, pairingGreeting(PIN) + wrong)).toMatch(/done\n$/)
    await until(
      () => board.has((line) => /wrong user or password|not authorised/.test(String(line['note']))),
      'it is refused',
    )
    expect(heard).toEqual([])
  }, 60_000)
})
