import { execFileSync, spawn } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import mqtt from 'mqtt'
import { afterEach, describe, expect, it } from 'vitest'
import { compileController, type ControllerImage } from '../../core/image'
import { readSite } from '../../core/site'
import { topics } from '../../core/topics'
import { buildHost } from '../host'
import { closeAll, darkLine, mosquitto, onClose, pause, until } from './live.testkit'

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
/** The shop window's feed, with a watch quick enough for a test. */
const image: ControllerImage = {
  ...compileController(parsed.value, 'window'),
  watch: { watchMs: 900, graceMs: 300, steadyMs: 600 },
  minReportMs: 0,
}
const FEED = image.channels.find((channel) => channel.kind === 'feed')!
const SWITCH = image.inputs[image.bindings.find((binding) => image.channels[binding.index] === FEED)!.input]!
const scheme = topics(image.site, image.controller)

afterEach(closeAll)

/** The hub: a heartbeat as long as it lives. */
function hub(port: number) {
  const client = mqtt.connect(`mqtt://127.0.0.1:${port}`, { reconnectPeriod: 100 })
  client.on('error', () => undefined)
  let alive = true
  const beat = setInterval(() => {
    if (alive && client.connected) client.publish(scheme.watch, 'alive')
  }, 200)
  const gestures: string[] = []
  client.on('connect', () => client.subscribe(scheme.gesture(FEED.topic)))
  client.on('message', (topic) => gestures.push(topic))
  onClose(() => {
    clearInterval(beat)
    client.end(true)
  })
  return {
    gestures,
    live: (yes: boolean) => {
      alive = yes
    },
  }
}

describe.skipIf(!existsSync('/usr/sbin/mosquitto'))('a feed on a real broker', () => {
  it(
    'its switch only tells a hub that lives, works by itself when hub or broker is dead, and gives ' +
      'power back when the hub is steady',
    async () => {
      const broker = mosquitto()
      await pause(300)
      const { program } = await buildHost(image)
      const line = await darkLine(broker.port)
      const child = spawn(program, ['live', '127.0.0.1', String(line.port)], { stdio: ['pipe', 'pipe', 'inherit'] })
      onClose(() => void child.kill('SIGKILL'))
      let text = ''
      child.stdout.on('data', (chunk: Buffer) => {
        text += chunk.toString()
      })
      const relay = (): string | undefined =>
        text
          .match(new RegExp(`"out":"${FEED.id}","level":[01]`, 'g'))
          ?.at(-1)
          ?.slice(-1)
      const said = (words: string): number => text.split(words).length - 1
      let level = 1 - SWITCH.closedLevel
      const put = async (next: number): Promise<void> => {
        level = next
        child.stdin.write(`{"t":0,"pin":"${SWITCH.id}","level":${level}}\n`)
        // longer than settling takes, also on a machine that is busy with something else
        await pause(250)
      }
      /** one use of the switch: a rocker goes over, a button is pressed and let go */
      const flip = async (): Promise<void> => {
        await put(1 - level)
        if (SWITCH.kind === 'momentary') await put(1 - level)
      }
      const house = hub(broker.port)
      await until(() => relay() === '1', 'the feed gives power at start')
      await until(() => said('"sub"') > 0, 'the link is up')
      // on a busy machine the hub may come too late for the first grace: whatever that did is over by now
      await pause(2_000)

      await flip()
      await until(() => house.gestures.length > 0, 'the hub hears of the switch')
      expect(relay()).toBe('1')

      const local = said('feeds are local')
      const detached = said('feeds are detached')
      house.live(false) // the hub is dead
      await until(() => said('feeds are local') > local, 'local without the hub')
      await flip()
      await until(() => relay() === '0', 'the switch works the relay')
      await flip()
      await until(() => relay() === '1', 'the switch works the relay')
      await flip()
      await until(() => relay() === '0', 'the switch works the relay')

      house.live(true) // it is back, and steady
      await until(() => said('feeds are detached') > detached, 'detached again')
      await until(() => relay() === '1', 'the lamps have power again')

      const dark = said('feeds are local')
      line.dark(true) // Wi-Fi is dead: nobody is told, nothing comes
      await pause(2_500)
      await flip()
      await until(() => relay() === '0', 'the switch works the relay without Wi-Fi')
      await flip()
      await until(() => relay() === '1', 'the switch works the relay without Wi-Fi')
      const afterDark = said('feeds are detached')
      line.dark(false)
      await until(() => said('feeds are detached') > afterDark, 'detached again after Wi-Fi', 30_000)
      expect(said('feeds are local')).toBeGreaterThan(dark)

      const again = said('feeds are detached')
      broker.kill() // and so the link: it cannot be said on log, only seen
      await pause(2_500)
      await flip()
      await until(() => relay() === '0', 'the switch works the relay')
      broker.start()
      await until(() => said('feeds are detached') > again, 'detached again after the broker', 20_000)
      await until(() => relay() === '1', 'the lamps have power again')
    },
    90_000,
  )

  it('a network that answers nothing holds up no press', async () => {
    const deaf = join(mkdtempSync(join(tmpdir(), 'vestibule-deaf-')), 'deaf')
    execFileSync('g++', [join('firmware', 'test', 'deaf.cpp'), '-o', deaf])
    const network = spawn(deaf, [], { stdio: ['ignore', 'pipe', 'inherit'] })
    onClose(() => void network.kill('SIGKILL'))
    const port = await new Promise<string>((resolve) =>
      network.stdout.once('data', (chunk: Buffer) => resolve(chunk.toString().trim())),
    )
    const { program } = await buildHost(image)
    const child = spawn(program, ['live', '127.0.0.1', port], { stdio: ['pipe', 'pipe', 'inherit'] })
    onClose(() => void child.kill('SIGKILL'))
    let text = ''
    child.stdout.on('data', (chunk: Buffer) => {
      text += chunk.toString()
    })
    const relays = (): string[] =>
      [...text.matchAll(new RegExp(`"out":"${FEED.id}","level":(\\d)`, 'g'))].map((found) => found[1]!)
    await until(() => relays().at(-1) === '1', 'the feed gives power at start')
    // local after its grace, while the connection is being asked for and again and again
    await pause(1_500)
    for (const wanted of ['0', '1', '0', '1', '0']) {
      const pressed = Date.now()
      child.stdin.write(`${JSON.stringify({ t: 0, pin: SWITCH.id, level: SWITCH.closedLevel })}\n`)
      await pause(80)
      child.stdin.write(`${JSON.stringify({ t: 0, pin: SWITCH.id, level: 1 - SWITCH.closedLevel })}\n`)
      await until(() => relays().at(-1) === wanted, 'the switch works the relay')
      expect(Date.now() - pressed).toBeLessThan(1_000)
      await pause(700)
    }
    expect(text).toContain('"link":"joining"')
  }, 60_000)
})
