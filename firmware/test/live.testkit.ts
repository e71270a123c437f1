import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { connect, createServer, type AddressInfo, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { connect as connectClient, type MqttClient } from 'mqtt'

/** What live tests share: an independent broker, waiting, and putting things away. */

const open: (() => void)[] = []
export const onClose = (close: () => void): void => void open.push(close)
export const closeAll = (): void => {
  for (const close of open.splice(0).reverse()) close()
}
export const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))
export async function until(holds: () => boolean, what: string, longestMs = 12_000): Promise<void> {
  for (const end = Date.now() + longestMs; !holds(); await pause(20))
    if (Date.now() > end) throw new Error(`never: ${what}`)
}

/** A line between a controller and its broker that can go dark: nothing passes any more, and neither end is told. */
export async function darkLine(to: number): Promise<{ port: number; dark: (yes: boolean) => void }> {
  let dark = false
  const sockets = new Set<Socket>()
  const server = createServer((near) => {
    const far = connect(to, '127.0.0.1')
    for (const [from, into] of [
      [near, far],
      [far, near],
    ] as const) {
      sockets.add(from)
      from.on('data', (chunk) => {
        if (!dark) into.write(chunk)
      })
      from.on('error', () => undefined)
      from.on('close', () => {
        if (!dark) into.destroy()
      })
    }
  })
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  onClose(() => {
    for (const socket of sockets) socket.destroy()
    server.close()
  })
  return {
    port: (server.address() as AddressInfo).port,
    dark: (yes) => {
      dark = yes
    },
  }
}

let brokers = 0

/** An independent broker, which can be killed and started again. */
export function mosquitto(more = 'allow_anonymous true\n') {
  const folder = mkdtempSync(join(tmpdir(), 'vestibule-broker-'))
  const port = 41_000 + ((process.pid * 4 + Number(process.env.VITEST_POOL_ID ?? 0) + 997 * brokers++) % 20_000)
  writeFileSync(join(folder, 'mosquitto.conf'), `listener ${port} 127.0.0.1\n${more}persistence false\n`)
  let child: ChildProcess
  const start = (): void => {
    child = spawn('/usr/sbin/mosquitto', ['-c', join(folder, 'mosquitto.conf')], { stdio: 'ignore' })
  }
  const kill = (): void => void child.kill('SIGKILL')
  start()
  onClose(kill)
  return { port, start, kill }
}

export interface LiveService {
  readonly port: number
  readonly client: MqttClient
  /** "topic payload" of everything that passed */
  readonly heard: string[]
}

/** An independent broker that lets in one board by its login, and the service's own client on it, hearing all. */
export async function mosquittoFor(user: string, password: string): Promise<LiveService> {
  const passwords = join(mkdtempSync(join(tmpdir(), 'vestibule-passwords-')), 'passwords')
  writeFileSync(passwords, '')
  const own = ['service', 'service-1'] as const
  for (const login of [[user, password], own]) execFileSync('mosquitto_passwd', ['-b', passwords, ...login])
  const { port } = mosquitto(`user root\nallow_anonymous false\npassword_file ${passwords}\n`)
  const client = connectClient({ port, host: '127.0.0.1', username: own[0], password: own[1], reconnectPeriod: 100 })
  const heard: string[] = []
  client.on('message', (topic, payload) => heard.push(`${topic} ${payload.toString()}`))
  client.subscribe('#')
  onClose(() => client.end(true))
  await until(() => client.connected, 'the service is on its broker')
  return { port, client, heard }
}
