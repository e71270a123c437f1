import { cpuMilliseconds } from '../cpuTime.testkit'
import { Parser } from '@asyncapi/parser'
import { produce } from 'immer'
import { load, loadAll } from 'js-yaml'
import { parseAllDocuments } from 'yaml'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { readFileSync } from 'node:fs'
import { credentialsNeeded, serviceKindsOf } from '../services'
import { tablesOf } from '../image'
import { controllerOf, readSite, type Site } from '../site'
import { linkTable } from '../ways'
import { lampFanStrike } from './kinds.testkit'
import {
  hubFile,
  asyncApiText,
  EXAMPLE_TEMPLATES,
  hubFiles,
  hubSecretsExample,
  infraredTable,
  mappingReference,
  pointsCsv,
  flashSteps,
  quotaTable,
  renderTemplate,
  secretsExample,
  serialTable,
  voiceTable,
} from '.'

/** The written formats, each read back by a program that is not ours: @asyncapi/parser, js-yaml, papaparse. */

const fernhollow = (): Site => {
  const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
  if (!parsed.ok) throw parsed.error
  return parsed.value
}
const site = fernhollow()
const rows = (csv: string): Record<string, string>[] =>
  Papa.parse<Record<string, string>>(csv, { header: true, skipEmptyLines: true }).data

describe('AsyncAPI 3', () => {
  it('is valid for the reference parser, with every command and state', async () => {
    const { document, diagnostics } = await new Parser().parse(asyncApiText(site))
    expect(
      diagnostics.filter((one) => one.severity === 0).map((one) => `${one.path.join('.')}: ${one.message}`),
    ).toEqual([])
    const addresses = document!
      .allChannels()
      .all()
      .map((channel) => channel.address())
    expect(addresses).toContain('vestibule/fernhollow/throwing/clay-dust-fan/set')
    expect(addresses).toContain('vestibule/fernhollow/window/window-spots/gesture')
    expect(addresses).toContain('vestibule/fernhollow/watch')
    expect(new Set(addresses).size).toBe(addresses.length)
  }, 30_000)
  it('a coprocessor logs in as its main board, whose topics are its own, and names its own pins', () => {
    const radio = controllerOf(site, 'drying-radio')!
    expect(secretsExample(site, radio)).toContain('#define VESTIBULE_BROKER_USER "fernhollow.drying"')
    const { image } = tablesOf(site, 'drying-radio')
    const steps = flashSteps(site, radio, image)
    // GPIO 0 is its boot pin: the main board's line is on 0 and 1, its own on 1 and 3
    expect(steps).toContain('The serial link is on TX (GPIO 1) (sends) and RX (GPIO 3) (hears)')
    expect(steps).not.toContain('and 0 (hears)')
  })
  it('a coprocessor speaks under its main board’s topics, and has none itself', () => {
    expect(asyncApiText(site)).toContain('vestibule/fernhollow/drying/rack-lights/state')
    expect(asyncApiText(site)).not.toContain('vestibule/fernhollow/drying-radio/')
  })
  it('a controller without a link has no topics', () =>
    expect(asyncApiText({ ...site, links: [] })).not.toContain('vestibule/fernhollow/drying/'))
})

describe('hub file', () => {
  const files = loadAll(hubFiles(site)) as {
    entities: { id: string; type: string; command: { words: string[]; retain: boolean }; state?: object }[]
    heartbeat: { everyMs: number }
    broker: object
  }[]
  const entity = (id: string) => files[0]!.entities.find((one) => one.id === id)!
  it('each kind of channel is an entity of its own kind', () => {
    expect(entity('bench-lights')).toMatchObject({
      type: 'switch',
      command: { words: ['on', 'off', 'toggle'], retain: false },
    })
    expect(entity('clay-dust-fan')).toMatchObject({ type: 'levels', state: { key: 'level', values: [0, 1, 2, 3, 4] } })
    expect(entity('shutter-opener')).toMatchObject({ type: 'pulse', command: { words: ['pulse', 'open', 'close'] } })
    expect(entity('window-spots')).toMatchObject({
      type: 'feed',
      gesture: { topic: 'vestibule/fernhollow/window/window-spots/gesture' },
    })
  })
  it('reads the same by YAML 1.1, where on and off without quotes are no words', () => {
    expect(parseAllDocuments(hubFiles(site), { version: '1.1' }).map((one) => one.toJS())).toEqual(
      parseAllDocuments(hubFiles(site)).map((one) => one.toJS()),
    )
    expect(hubFiles(site)).toMatch(/- "on"/)
  })
  it('a silent entity has no state', () => expect(entity('radio-socket').state).toBeUndefined())
  it('the heartbeat comes three times within the watch', () => expect(files[0]!.heartbeat.everyMs).toBe(3_333))
  it('secrets are only named, and stand empty in a file apart', () => {
    expect(files[0]!.broker).toMatchObject({ password: { secret: 'hub/password' } })
    expect(load(hubSecretsExample(site))).toEqual({ 'hub/host': '', 'hub/user': '', 'hub/password': '' })
  })
})

describe('the file of a hub with a wire of its own', () => {
  const wired = lampFanStrike(['device-file'])
  const [file] = loadAll(hubFiles(wired)) as {
    controllers: { entities: object[]; notes: string[] }[]
    broker?: object
  }[]
  it('says what goes over that wire, with the credentials by their keys, and no topic of the house', () => {
    expect(file!.controllers[0]!.entities[0]).toEqual({
      ...{ point: 1, id: 'lamp', name: 'Lamp', carries: 'channel', values: { least: 0, most: 1 } },
      ...{ says: 'box/lamp/state: VALUE', asks: 'box/lamp/command' },
    })
    expect(file!.controllers[0]!.notes.join()).toMatch(/The last number is on box\/count/)
    expect(hubFiles(wired)).not.toContain('vestibule/')
    expect(file!.broker).toBeUndefined()
  })
  it('has the keys of a hub that calls', () => {
    const calls = hubFiles(lampFanStrike(['commissioning']))
    expect(calls).toContain('X-Key: <hub/setup-code/box>')
    expect(calls).toContain('POST /endpoints/3/VALUE, with Idempotency-Key')
  })
})

describe('the secrets that a hub’s file names', () => {
  it('every kind of hub is tried', () =>
    expect(serviceKindsOf(site).flatMap(({ id, family }) => (family === 'hub' ? [id] : []))).toEqual([
      'broker',
      'device-file',
      'commissioning',
      'mesh',
    ]))
  it.each([
    ['broker', 3],
    ['device-file', 0],
    ['commissioning', 0],
    ['mesh', 0],
  ])('%s names %i, and each is a credential of the site, by its key', (kind, count) => {
    const other = produce(site, (draft) => {
      for (const hub of draft.hubs) hub.kind = kind
    })
    const keys = credentialsNeeded(other).map((need) => need.key)
    const file = hubFile(other, other.hubs[0]!)
    const named = [...file.matchAll(/secret: "?([^"\n]+)/g)].map((match) => match[1]!)
    expect(named).toHaveLength(count)
    expect(keys).toEqual(expect.arrayContaining(named))
    expect(keys).toEqual(expect.arrayContaining(Object.keys(load(hubSecretsExample(other)) as object)))
  })
})

describe('tables', () => {
  it('points: a row for each', () =>
    expect(rows(pointsCsv(site))).toHaveLength(site.services.reduce((sum, service) => sum + service.points.length, 0)))
  it('serial: a character for each command, none twice at one controller', () => {
    const table = rows(serialTable(site))
    expect(table).toHaveLength(site.links.reduce((sum, link) => sum + linkTable(site, link).length, 0))
    const keys = table.map((row) => `${row['controller']} ${row['character']}`)
    expect(new Set(keys).size).toBe(keys.length)
    expect(table.find((row) => row['link'] === 'Drying line')).toMatchObject({
      controller: 'Drying',
      other_end: 'Drying radio',
      baud: '9600',
    })
  })
  it('voice: every example is understood', () =>
    expect(rows(voiceTable(site)).map((row) => row['understood'])).toEqual(rows(voiceTable(site)).map(() => 'yes')))
  it('infrared: codes as numbers and as durations', () =>
    expect(rows(infraredTable(site))[0]).toMatchObject({
      protocol: 'nec',
      repeat: 'once',
      microseconds: expect.stringMatching(/^9000 4500 563/),
    }))
  it('quota: the shares of a service make a whole', () => {
    const app = rows(quotaTable(site)).filter((row) => row['service'] === 'App service' && row['what'] !== 'all')
    expect(app.reduce((sum, row) => sum + Number.parseFloat(row['share']!), 0)).toBeCloseTo(100, -1)
  })
  it('quota: the modem has its bytes', () =>
    expect(
      rows(quotaTable(site)).find((row) => row['service'] === 'Yard modem' && row['what'] === 'all'),
    ).toBeDefined())
})

describe('templates', () => {
  it.each(EXAMPLE_TEMPLATES.map((template) => [template.name, template] as const))(
    '%s renders over the demo',
    (_, template) => {
      const rendered = renderTemplate(site, template.text)
      expect(rendered).toMatchObject({ ok: true })
      expect(rendered.ok && rendered.text.length).toBeGreaterThan(200)
    },
  )
  it('the hub list is YAML', () => {
    const rendered = renderTemplate(site, EXAMPLE_TEMPLATES[1]!.text)
    expect(load(rendered.ok ? rendered.text : '')).toHaveLength(site.hubs[0]!.entities.length)
  })
  it('the wiring checklist carries the cautions of mains', () => {
    const rendered = renderTemplate(site, EXAMPLE_TEMPLATES[2]!.text)
    expect(rendered.ok && rendered.text).toContain('Mains can kill')
  })
  it('an unknown filter is refused with its line', () =>
    expect(renderTemplate(site, 'a\n{{ site.name | shout }}')).toMatchObject({
      ok: false,
      line: 2,
      message: expect.stringContaining('undefined filter: shout'),
    }))
  it('an unclosed tag is refused with its line', () =>
    expect(renderTemplate(site, 'a\n\n{% for x in points %}')).toMatchObject({ ok: false, line: 3 }))
  it('a loop without end costs no more than its time', () => {
    const endless =
      '{% for a in (1..100000) %}{% for b in (1..100000) %}{{ a | plus: b | times: 3 }}{% endfor %}{% endfor %}'
    expect(cpuMilliseconds(() => expect(renderTemplate(site, endless).ok).toBe(false))).toBeLessThan(3_000)
  })
  it('the hub’s list reads back as YAML, whatever an entity is called', () => {
    const called = 'a "b": [c] # d\\ \'e\' é: - {f}'
    const other = produce(site, (draft) => void (draft.hubs[0]!.entities[0]!.name = called))
    const list = EXAMPLE_TEMPLATES.find(({ text }) => text.includes('what the hub must know'))!
    const rendered = renderTemplate(other, list.text)
    expect(rendered.ok && (load(rendered.text) as { name: string }[])[0]!.name).toBe(called)
  })
  it('no file is read, and no prototype is reached', () => {
    expect(renderTemplate(site, '{% include "/etc/passwd" %}').ok).toBe(false)
    expect(renderTemplate(site, '{% render "secrets" %}').ok).toBe(false)
    expect(renderTemplate(site, '[{{ site.constructor.name }}{{ site.__proto__ }}]')).toEqual({ ok: true, text: '[]' })
  })
  it('the reference lists what is there', () =>
    expect(mappingReference(site).map((one) => one.path)).toContain('points[].vp'))
})
