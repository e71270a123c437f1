import { connect as connectTcp } from 'node:net'
import mqtt, { type IClientOptions } from 'mqtt'
import { linksOf, tablesOf } from '../core/image'
import { credentialsNeeded, holderOf } from '../core/services'
import { controllerOf, type Site } from '../core/site'
import { compileWires, FarEnd, RequestFarEnd, valueAt, WireRefused, type LinkWire, type Place } from '../core/wires'

/** What a dry run found, line by line; `ok`: the far end was reached and let us in. */
export interface DryRun {
  readonly ok: boolean
  readonly lines: string[]
}

const PATIENCE_MS = 5_000
/** After a subscription, what a service remembers comes at once; so long is listened. */
const LISTEN_MS = 1_200
const LONGEST_LIST = 6
const LONGEST_TEXT = 120

/** Where it is tried; the stand-in of this machine has no TLS, whatever the wire says. */
export interface DryPlace {
  readonly address: string
  readonly port: number
  readonly isStandIn: boolean
}

/**
 * Tries a service's wire as a board would, from this machine: it logs in, listens or reads, and writes nothing. `place`
 * is where the maker says that the service is.
 */
export async function dryRun(
  site: Site,
  service: string,
  place: DryPlace,
  reveal: (secret: string) => string,
): Promise<DryRun> {
  const holder = holderOf(site, service)?.service
  const controller = holder?.points[0] && controllerOf(site, holder.points[0].controller)
  if (!holder || !controller) return { ok: false, lines: ['No point yet: give a channel a way through this service.'] }
  const { image } = tablesOf(site, controller.id)
  const index = linksOf(image).findIndex(({ id, own }) => !own && id === service)
  if (index < 0) return { ok: false, lines: [`${controller.name} has no connection left for it, or no network.`] }
  try {
    const link = compileWires(site, image, true).links[index]!
    const begin = `As ${controller.name}, to ${place.address}:${place.port}`
    const found = await tryLink(link, place, reveal)
    return { ok: found.ok, lines: [begin, ...notStored(site, service, controller.id, reveal), ...found.lines] }
  } catch (error) {
    if (error instanceof WireRefused) return { ok: false, lines: [error.message] }
    throw error
  }
}

/** What it was tried without. */
function notStored(site: Site, service: string, controller: string, reveal: (secret: string) => string): string[] {
  const missing = credentialsNeeded(site).filter(
    ({ key, controllers }) => key.startsWith(`${service}/`) && controllers.includes(controller) && reveal(key) === '',
  )
  return missing.length
    ? [`Not stored: ${missing.map(({ label }) => label).join(', ')}. Enter what is missing under Credentials.`]
    : []
}

function tryLink(link: LinkWire, at: DryPlace, reveal: (secret: string) => string): Promise<DryRun> {
  if (link.transport === 'mqtt') return tryMqtt(new FarEnd(link, reveal), link.place, at)
  if (link.transport === 'http') return tryRead(new RequestFarEnd(link, reveal), link, at)
  if (link.transport === 'hook' && link.call) return tryConnection(at)
  return Promise.resolve({ ok: true, lines: ['The service calls the controller: nothing to connect to from here.'] })
}

const short = (text: string): string => (text.length > LONGEST_TEXT ? `${text.slice(0, LONGEST_TEXT)} …` : text)

/** MQTT 3.1.1, table 3.1. */
const REFUSALS: Readonly<Record<number, string>> = {
  1: 'another protocol version',
  2: 'client id refused',
  3: 'service not available',
  4: 'wrong user or password',
  5: 'not authorised',
}

async function tryMqtt(far: FarEnd, { tls }: Place, { address, port, isStandIn }: DryPlace): Promise<DryRun> {
  const lines: string[] = []
  const options: IClientOptions = {
    ...{ clientId: far.login.client, username: far.login.user, password: far.login.password },
    ...{ reconnectPeriod: 0, connectTimeout: PATIENCE_MS, protocolVersion: 4 },
  }
  const client = mqtt.connect(`${tls && !isStandIn ? 'mqtts' : 'mqtt'}://${address}:${port}`, options)
  try {
    await new Promise<void>((resolve, reject) => {
      client.once('connect', () => resolve())
      client.once('error', reject)
      client.once('close', () => reject(new Error('closed without an answer')))
    })
    client.on('error', () => undefined)
    lines.push('Logged in.')
    const heard: string[] = []
    client.on('message', (topic, payload) => heard.push(`Received ${topic}  ${short(payload.toString())}`))
    for (const topic of far.heard) {
      const granted = await client.subscribeAsync(topic, { qos: 0 }).catch(() => [])
      const isIn = granted.some(({ qos }) => qos < 128)
      lines.push(isIn ? `Listening on ${topic}` : `Refused: ${topic} may not be listened to.`)
    }
    await new Promise((resolve) => setTimeout(resolve, LISTEN_MS))
    lines.push(...(heard.length ? heard.slice(0, LONGEST_LIST) : ['Nothing received yet.']))
    return { ok: !lines.some((line) => line.startsWith('Refused')), lines }
  } catch (error) {
    return { ok: false, lines: [...lines, `Refused: ${whyMqtt(error)}.`] }
  } finally {
    await client.endAsync(true).catch(() => undefined)
  }
}

function whyMqtt(error: unknown): string {
  const { code, message } = error as { code?: number | string; message: string }
  return typeof code === 'number' ? (REFUSALS[code] ?? message) : message || String(code)
}

async function tryRead(
  far: RequestFarEnd,
  link: Extract<LinkWire, { transport: 'http' }>,
  { address, port, isStandIn }: DryPlace,
): Promise<DryRun> {
  const row = link.hears[0]
  if (!link.read || !row)
    return { ok: true, lines: ['Nothing is read. A write would change the service, so it was not tried.'] }
  const path = far.pathOf(row)
  const lines = [`GET ${path}`]
  try {
    const answer = await fetch(`${link.place.tls && !isStandIn ? 'https' : 'http'}://${address}:${port}${path}`, {
      headers: Object.fromEntries(far.heads),
      redirect: 'manual',
      signal: AbortSignal.timeout(PATIENCE_MS),
    })
    const body = await answer.text()
    lines.push(`Answered ${answer.status}  ${short(body)}`)
    for (const hear of link.hears.slice(0, LONGEST_LIST)) {
      if (!link.read.all && hear !== row) continue
      const value = hear.pointer === null ? body : valueAt(body, hear.pointer)
      lines.push(`${hear.to} ${value === undefined ? 'is not in the answer' : `is ${short(value)}`}`)
    }
    return { ok: answer.ok, lines }
  } catch (error) {
    return { ok: false, lines: [...lines, `No answer: ${(error as Error).message}.`] }
  }
}

function tryConnection({ address, port }: DryPlace): Promise<DryRun> {
  return new Promise((resolve) => {
    const socket = connectTcp({ host: address, port, timeout: PATIENCE_MS })
    const ends = (ok: boolean, line: string) => {
      socket.destroy()
      resolve({ ok, lines: [line] })
    }
    socket.once('connect', () => ends(true, 'Connected. A report would change the service, so none was sent.'))
    socket.once('timeout', () => ends(false, 'No answer.'))
    socket.once('error', (error) => ends(false, `Not connected: ${error.message}.`))
  })
}
