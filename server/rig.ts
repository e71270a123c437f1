import { spawn, type ChildProcess } from 'node:child_process'
import { chmod, mkdir, rm } from 'node:fs/promises'
import { createServer, type AddressInfo } from 'node:net'
import { join } from 'node:path'
import { boardIn } from '../core/boards'
import { compileSite, linksOf, type BoardTables } from '../core/image'
import { secretsFile } from '../core/outputs'
import { controllerOf, speaksAs, type Controller, type Site } from '../core/site'
import {
  compileWires,
  HOUSE_SECRETS,
  pairingLines,
  type ControllerWires,
  type LinkWire,
  type Place,
} from '../core/wires'
import { credentialsNeeded } from '../core/services'
import type { RigBoard, RigPaired, RigState } from '../core/api'
import { buildHost, FirmwareRefused } from '../firmware/host'
import type { Live } from './live'
import { pairOver } from './phonePairing'
import { RigLines } from './rigLines'

/** What the rig needs to know of the house: where it is, and what opens it. All on this machine. */
export interface RigGround {
  readonly brokerPort: number
  readonly brokerTls: boolean
  readonly doorPort: number
  readonly reveal: (secret: string) => string
  readonly brokerPassword: (controller: string) => string
}

const LOOPBACK = '127.0.0.1'
/** Screens are told no more often than that, ms. */
const TELL_MS = 150

interface Running {
  readonly board: string
  readonly lines: RigLines
  child: ChildProcess | null
  /** where it is ready to pair, on this machine's short range; null: it has no PIN */
  pairing: { readonly port: number; readonly wires: ControllerWires } | null
  /** of a box that nobody programs: the network keys with which it was included, by their keys in the store */
  joinedWith: ReadonlyMap<string, string>
  trouble: string | null
}

/**
 * The real thing on this machine: the host firmware of every controller of a site, compiled with its secrets, each a
 * process that speaks to the broker of the house and to the stand-ins with nothing but what the sheets name.
 */
export class Rig {
  private boards: Running[] = []
  private phase: RigState['phase'] = 'off'
  private telling: NodeJS.Timeout | null = null
  /** a start that was stopped meanwhile goes no further */
  private turn = 0
  /** of boards that are called, by "board/service" */
  private readonly ports = new Map<string, number>()

  constructor(
    private readonly folder: string,
    private readonly live: Live,
    private readonly siteId: string,
  ) {}

  state(): RigState {
    return {
      phase: this.phase,
      boards: this.boards.map(({ board, lines, child, trouble, pairing }): RigBoard => ({
        controller: board,
        running: child !== null,
        trouble,
        ...lines.state(),
        pairing: pairing === null || child === null ? 'none' : lines.isOffered ? 'offered' : 'possible',
      })),
    }
  }

  /** Compiles and starts every board. One that cannot be built says why, and the others run. */
  async start(site: Site, ground: RigGround): Promise<void> {
    this.stop()
    const turn = ++this.turn
    this.phase = 'building'
    const tables = compileSite(site)
    this.boards = tables.map(({ board, image, part }) => ({
      board,
      lines: new RigLines(part === 'mirror' ? [] : image.channels, linksOf(image), (line) =>
        this.overLine(site, board, line),
      ),
      child: null,
      pairing: null,
      joinedWith: new Map(),
      trouble: null,
    }))
    this.tell()
    for (const [index, table] of tables.entries()) {
      const running = this.boards[index]!
      await this.startBoard(site, table, running, ground, turn).catch((error: unknown) => {
        running.trouble =
          error instanceof FirmwareRefused ? error.message.split('\n').slice(0, 2).join(' ') : String(error)
      })
      if (turn !== this.turn) return
      this.tell()
    }
    this.phase = 'on'
    this.tell()
  }

  private async startBoard(
    site: Site,
    { board, image, part }: BoardTables,
    running: Running,
    ground: RigGround,
    turn: number,
  ): Promise<void> {
    const controller = controllerOf(site, board)!
    running.joinedWith = joinKeys(site, controller, ground)
    await mkdir(this.folder, { recursive: true, mode: 0o700 })
    const wires = await this.onThisMachine(
      board,
      compileWires(site, image, controller.link !== 'none'),
      ground.doorPort,
    )
    running.pairing = wires.pin ? { port: await freePort(), wires } : null
    const { program } = await buildHost(image, {
      wires,
      secrets: secretsOf(site, controller, ground),
      outDir: this.folder,
    })
    await chmod(program, 0o700)
    if (turn !== this.turn) return
    const child = spawn(program, ['live', ...(part === 'mirror' ? ['mirror'] : [])], {
      stdio: ['pipe', 'pipe', 'pipe'],
      env: this.shortRange(running),
    })
    running.child = child
    child.on('error', (error) => this.ends(running, error.message))
    child.on('exit', (code, signal) => this.ends(running, signal ? null : `ended with ${code}`))
    child.stdin.on('error', () => undefined)
    child.stdout.on('data', (data: Buffer) => {
      running.lines.take(data.toString())
      this.tell()
    })
    child.stderr.on('data', (data: Buffer) => {
      running.lines.odd(data.toString().trim())
      this.tell()
    })
  }

  /** Where a board that has a PIN is paired, and what it keeps over a restart. */
  private shortRange({ board, pairing }: Running): Record<string, string> {
    if (!pairing) return {}
    return { VESTIBULE_PAIRING_PORT: String(pairing.port), VESTIBULE_STORE: join(this.folder, `${board}.store`) }
  }

  /**
   * Nothing of the rig leaves this machine, wherever a wire leads: every service is its stand-in here, without TLS. And
   * boards that are called have a port each, since on one machine they cannot all have the one that their wire names.
   */
  private async onThisMachine(board: string, wires: ControllerWires, doorPort: number): Promise<ControllerWires> {
    const place: Place = { address: [LOOPBACK], port: doorPort, portSecret: null, tls: false }
    const links: LinkWire[] = []
    for (const link of wires.links) {
      if (link.transport === 'own') links.push(link)
      else if (link.transport !== 'hook') links.push({ ...link, place })
      else {
        const port = await freePort()
        this.ports.set(`${board}/${link.id}`, port)
        links.push({ ...link, port, call: link.call && { ...link.call, place } })
      }
    }
    return { ...wires, links }
  }

  /** Where a board is called for a service, while it runs. */
  calledAt(board: string, service: string): string | undefined {
    const port = this.ports.get(`${board}/${service}`)
    const runs = this.boards.some((one) => one.board === board && one.child !== null)
    return port !== undefined && runs ? `http://${LOOPBACK}:${port}` : undefined
  }

  /** A box whose hub has another network key by now is no part of its network any more. */
  recheck(reveal: (secret: string) => string): void {
    for (const running of this.boards) {
      if ([...running.joinedWith].every(([key, value]) => reveal(key) === value)) continue
      running.child?.kill('SIGKILL')
      running.child = null
      running.trouble = 'The network key is another now: include the box again (stop the rig and run it).'
      this.tell()
    }
  }

  private ends(running: Running, trouble: string | null): void {
    running.child = null
    if (this.phase !== 'off') running.trouble ??= trouble
    this.tell()
  }

  /** What a board says over its serial line is heard by the one at its other end. */
  private overLine(site: Site, from: string, said: { line: string } | { char: string }): void {
    for (const { board } of this.boards) {
      if (board === from) continue
      if ('line' in said ? speaksAs(site, board) === from : speaksAs(site, from) === board) this.event(board, said)
    }
  }

  /** An event of a trace for a board, as a person makes it. False: that board does not run. */
  event(controller: string, event: object): boolean {
    const child = this.boards.find(({ board }) => board === controller)?.child
    return child?.stdin?.write(`${JSON.stringify({ t: 0, ...event })}\n`) ?? false
  }

  /**
   * A phone beside a board: says a PIN, and gives it its network and logins. Undefined: that board offers nothing.
   */
  pair(site: Site, controller: string, pin: string, ground: RigGround): Promise<RigPaired> | undefined {
    const running = this.boards.find(({ board }) => board === controller)
    if (!running?.pairing || !running.child) return undefined
    const { port, wires } = running.pairing
    const network = { name: ground.reveal('wifi/name'), password: ground.reveal('wifi/password') }
    const lines = pairingLines(wires, network.name === '' ? null : network, (key) =>
      houseSecret(site, controller, ground, key),
    )
    return pairOver(port, pin, `${site.id}/${speaksAs(site, controller)}`, lines)
  }

  /** Every process is ended, and what was compiled with secrets is gone. */
  stop(): void {
    this.turn++
    for (const { child } of this.boards) child?.kill('SIGKILL')
    for (const running of this.boards) running.child = null
    this.phase = 'off'
    void rm(this.folder, { recursive: true, force: true })
    this.tell()
  }

  private tell(): void {
    this.telling ??= setTimeout(() => {
      this.telling = null
      this.live.tell({ kind: 'rig', site: this.siteId })
    }, TELL_MS).unref()
  }
}

/**
 * A box that nobody programs runs its maker's own firmware, for which ours stands in here; into the network of its mesh
 * hub it comes with that network's key, and with nothing else.
 */
function joinKeys(site: Site, controller: Controller, ground: RigGround): ReadonlyMap<string, string> {
  if (!boardIn(site, controller.board)?.boxed?.parameters) return new Map()
  const keys = credentialsNeeded(site)
    .filter(({ key }) => site.hubs.some((hub) => hub.kind === 'mesh' && key.startsWith(`${hub.id}/`)))
    .filter(({ controllers }) => controllers.includes(controller.id))
    .map(({ key }) => [key, ground.reveal(key)] as const)
  if (keys.some(([, value]) => value === ''))
    throw new FirmwareRefused(`${controller.name} cannot be included: the network key of its hub is not stored`)
  return new Map(keys)
}

/** secrets.h of a board on this machine: as the sheet says, but for the addresses. */
function secretsOf(site: Site, controller: Controller, ground: RigGround): string {
  const speaks = speaksAs(site, controller.id)
  const broker = {
    address: LOOPBACK,
    port: ground.brokerPort,
    tls: false,
    user: `${site.id}.${speaks}`,
    password: ground.brokerPassword(speaks),
  }
  return secretsFile(site, controller, broker, ground.reveal, () => ({ address: LOOPBACK, port: ground.doorPort }))
}

/** What secrets.h of a board would say under a key: a stored credential, or where the broker of the house is. */
function houseSecret(site: Site, controller: string, ground: RigGround, key: string): string {
  const speaks = speaksAs(site, controller)
  switch (key) {
    case HOUSE_SECRETS.address:
      return LOOPBACK
    case HOUSE_SECRETS.port:
      return String(ground.brokerPort)
    case HOUSE_SECRETS.user:
      return `${site.id}.${speaks}`
    case HOUSE_SECRETS.password:
      return ground.brokerPassword(speaks)
    default:
      return ground.reveal(key)
  }
}

/** A port of this machine that nobody has. */
const freePort = (): Promise<number> =>
  new Promise((resolve, reject) => {
    const probe = createServer().once('error', reject)
    probe.listen(0, LOOPBACK, () => {
      const { port } = probe.address() as AddressInfo
      probe.close(() => resolve(port))
    })
  })

export const rigFolder = (data: string, site: string): string => join(data, 'rig', site)
