import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { planAndWrite } from '../pins'
import {
  applyOperations,
  newFeed,
  newInput,
  newPaired,
  newPulsed,
  parseSite,
  type Channel,
  type Input,
  type KeyCode,
  type LinkId,
  type PartId,
  type Sensor,
  type Site,
} from '../site'
import {
  addAppWay,
  addControl,
  addGroup,
  addHubWay,
  addKey,
  addLinkWays,
  addRemoteWay,
  addSensorPoint,
  addVoiceWay,
  addWallWay,
} from '../ways'
import { keepServiceKind, SERVICE_KINDS } from '../services'
import { checkSite, fixEdit, NO_RECORD, type CredentialRecord, type Finding, type RecordOfBuilds } from '.'
import { cleanSite } from './cleanSite.testkit'

/**
 * Findings of services, names, remotes, links, doors, feeds and credentials: each with a site that has it and the
 * nearest that has not.
 */

type Change = (site: Site) => void
/** Drafts of Immer cannot be cloned by the platform. */
const copyOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T
const both =
  (...changes: Change[]): Change =>
  (s) =>
    changes.forEach((change) => change(s))
const plan: Change = (s) => planAndWrite(s, 'corner')
const corner = (s: Site) => s.controllers[0]!

/** A door, with a push switch beside it. */
const door = (changes: Partial<Extract<Channel, { kind: 'pulsed' }>> = {}, more: Change = () => {}): Change =>
  both(
    (s) => {
      const channel = newPulsed(s, 'Gate', corner(s), {
        door: { lock: 'fail-secure', place: 'outside', closesUnattended: false, warningDevice: false },
        ...changes,
      })
      s.channels.push(channel)
      const button = newInput(s, 'Gate button', corner(s), 'momentary')
      s.inputs.push(button)
      addWallWay(s, channel, button)
    },
    more,
    plan,
  )
const gate = (s: Site) => s.channels.find((channel) => channel.id === 'gate')!
const appToGate: Change = (s) => void addAppWay(s, gate(s))
const gatePoint =
  (changes: object): Change =>
  (s) => {
    Object.assign(s.services[0]!.points.at(-1)!, changes)
  }
const gateWidget =
  (changes: object): Change =>
  (s) => {
    Object.assign(s.services[0]!.widgets.at(-1)!, changes)
  }

const feed = (more: Change = () => {}): Change =>
  both(
    (s) => {
      const channel = newFeed(s, 'Spots', corner(s))
      s.channels.push(channel)
      const input = newInput(s, 'Spot switch', corner(s), 'momentary')
      s.inputs.push(input)
      addWallWay(s, channel, input)
      addHubWay(s, channel)
    },
    more,
    plan,
  )

const kind =
  (id: string, limits: object): Change =>
  (s) => {
    const shipped = SERVICE_KINDS.find((one) => one.id === id)!
    keepServiceKind(s, { ...shipped, limits: { ...shipped.limits, ...limits } })
  }
const voice =
  (...names: string[]): Change =>
  (s) =>
    names.forEach((name, i) => {
      addVoiceWay(s, s.channels[i]!).name = name
    })
const remote = (code: KeyCode = { protocol: 'nec', address: 4, command: 26 }, more: Change = () => {}): Change =>
  both(
    (s) => {
      corner(s).parts.push({ id: 'receiver' as PartId, profile: 'infrared-receiver', name: 'Receiver' })
      addRemoteWay(s, s.channels[0]!)
      s.remotes[0]!.keys[0]!.code = code
    },
    more,
    plan,
  )
const repeats: Change = (s) => {
  s.remotes[0]!.keys[0]!.repeat = { policy: 'repeat', everyMs: 300 }
}
const sensor: Change = (s) => {
  s.sensors.push({
    id: 'air' as Sensor['id'],
    name: 'Air',
    controller: corner(s).id,
    part: null,
    quantity: 'temperature',
    unit: '°C',
    everyMs: 1000,
    deadBand: 0.5,
    staleMs: null,
  })
}
const twin =
  (baud: 9600 | 19200): Change =>
  (s) => {
    s.controllers.push({
      ...copyOf(corner(s)),
      id: 'other' as Site['controllers'][number]['id'],
      name: 'Other',
      pins: {},
    })
    addLinkWays(s, s.channels[0]!, 'serial')
    s.links[0]!.other = 'other' as Site['controllers'][number]['id']
    s.links.push({
      ...copyOf(s.links[0]!),
      id: 'again' as LinkId,
      name: 'Again',
      controller: s.controllers[1]!.id,
      other: corner(s).id,
      baud,
    })
  }
/**
 * The corner without a network, and a coprocessor at the other end of its line that has characters for what the hub may
 * ask.
 */
const pair: Change = (s) => {
  s.controllers.push({
    ...copyOf(corner(s)),
    id: 'radio' as Site['controllers'][number]['id'],
    name: 'Radio',
    pins: {},
    parts: [],
  })
  corner(s).link = 'none'
  s.services = []
  s.ways = s.ways.filter((way) => way.kind === 'wall' || (way.kind === 'hub' && way.channel === s.channels[0]!.id))
  if (!s.ways.some((way) => way.kind === 'hub')) addHubWay(s, s.channels[0]!)
  addLinkWays(s, s.channels[0]!, 'serial')
  s.links[0]!.other = 'radio' as Site['controllers'][number]['id']
}
const hold =
  (holdMs: number, gesture: 'press' | 'hold' = 'hold'): Change =>
  (s) => {
    const input = s.inputs[0] as Extract<Input, { kind: 'momentary' }>
    input.holdMs = holdMs
    addControl(s, {
      kind: 'controller',
      controller: corner(s).id,
      source: { kind: 'wall', input: input.id, gesture },
      action: 'reset',
    })
  }

const CASES: { id: string; severity: string; has: Change; hasNot: Change; says: RegExp }[] = [
  {
    id: 'M04',
    severity: 'warning',
    has: door({}, both(appToGate, gateWidget({ kind: 'switch' }))),
    hasNot: door({}, appToGate),
    says: /is a switch: it stays on 1 after a pulse/,
  },
  {
    id: 'M04',
    severity: 'warning',
    has: (s) => {
      const channel = newPaired(s, 'Shutter', corner(s))
      s.channels.push(channel)
      addAppWay(s, channel)
      s.services[0]!.widgets.at(-1)!.kind = 'switch'
      plan(s)
    },
    hasNot: (s) => {
      const channel = newPaired(s, 'Shutter', corner(s))
      s.channels.push(channel)
      addAppWay(s, channel)
      plan(s)
    },
    says: /has three: up, stop, down/,
  },
  {
    id: 'M08',
    severity: 'error',
    has: kind('datapoint', { points: 1 }),
    hasNot: kind('datapoint', { points: 2 }),
    says: /needs 2 points on Corner; the plan of a datapoint app service allows 1/,
  },
  {
    id: 'M08',
    severity: 'error',
    has: kind('datapoint', { widgets: 1 }),
    hasNot: kind('datapoint', { widgets: 2 }),
    says: /needs 2 widgets for Corner/,
  },
  {
    id: 'M08',
    severity: 'error',
    has: both(kind('voice-bridge', { devices: 1 }), voice('bench lamp', 'shelf rail')),
    hasNot: both(kind('voice-bridge', { devices: 2 }), voice('bench lamp', 'shelf rail')),
    says: /needs 2 devices; the plan of a voice bridge allows 1/,
  },
  {
    id: 'M08',
    severity: 'warning',
    has: kind('datapoint', { nameLength: 9 }),
    hasNot: kind('datapoint', { nameLength: 10 }),
    says: /have more than 9 characters/,
  },
  {
    id: 'M08',
    severity: 'error',
    has: (s) => {
      s.services[0]!.kind = 'nobody-knows'
    },
    hasNot: () => {},
    says: /There is no kind "nobody-knows"/,
  },
  {
    id: 'M09',
    severity: 'error',
    has: (s) => {
      s.day.changes = 2_000
    },
    hasNot: (s) => {
      s.day.changes = 20
    },
    says: /At 2000 changes a channel a day App service carries .* messages a month, 100,000 are allowed\. Most of it/,
  },
  {
    id: 'M09',
    severity: 'warning',
    has: (s) => {
      corner(s).link = 'modem'
      corner(s).modem = { apn: 'things', joinS: 30 }
      s.day.changes = 5_000
    },
    hasNot: (s) => {
      corner(s).link = 'modem'
      corner(s).modem = { apn: 'things', joinS: 30 }
    },
    says: /MB a month \(30 days\) over its modem/,
  },
  {
    id: 'M10',
    severity: 'warning',
    has: kind('datapoint', { updateMs: 1000 }),
    hasNot: kind('datapoint', { updateMs: 200 }),
    says: /may change each 200 ms; the service takes one value each 1000 ms/,
  },
  {
    id: 'M13',
    severity: 'error',
    has: twin(19200),
    hasNot: twin(9600),
    says: /9600 baud at one end, 19200 at the other/,
  },
  {
    id: 'M14',
    severity: 'error',
    has: both(voice('bench lamp'), (s) => {
      const way = s.ways.at(-1)!
      if (way.kind === 'voice') way.through = null
    }),
    hasNot: voice('bench lamp'),
    says: /has no point and no entity/,
  },
  {
    id: 'M15',
    severity: 'error',
    has: (s) => {
      addLinkWays(s, s.channels[0]!, 'serial')
      const way = s.ways.at(-1)!
      if (way.kind === 'link') way.action = 'pulse'
    },
    hasNot: (s) => addLinkWays(s, s.channels[0]!, 'serial'),
    says: /is switched; it does not know “pulse”/,
  },
  {
    id: 'M17',
    severity: 'error',
    has: (s) => {
      addHubWay(s, s.channels[0]!)
      corner(s).link = 'none'
    },
    hasNot: (s) => {
      addHubWay(s, s.channels[0]!)
    },
    says: /Corner has no network, and no coprocessor/,
  },
  {
    id: 'M17',
    severity: 'error',
    has: both(pair, (s) => {
      s.ways = s.ways.filter((way) => way.kind !== 'link' || way.action !== 'off')
    }),
    hasNot: pair,
    says: /Radio stands for Corner on the network, and its line has no character for “off” of Bench lamp/,
  },
  {
    id: 'M16',
    severity: 'error',
    has: (s) => {
      addLinkWays(s, s.channels[0]!, 'serial')
      addLinkWays(s, s.channels[1]!, 'nearby')
      const way = s.ways.at(-1)!
      if (way.kind === 'link') way.char = 'A'
    },
    hasNot: (s) => {
      addLinkWays(s, s.channels[0]!, 'serial')
      addLinkWays(s, s.channels[1]!, 'nearby')
    },
    says: /“A” means .* on Corner/,
  },
  {
    id: 'N01',
    severity: 'error',
    has: voice('bench lamp', 'Bench lamp'),
    hasNot: voice('bench lamp', 'shelf rail'),
    says: /Two devices are called/,
  },
  {
    id: 'N02',
    severity: 'warning',
    has: voice('relay two', 'relay to'),
    hasNot: voice('relay two', 'shelf rail'),
    says: /a number sounds like a word, 97 %/,
  },
  {
    id: 'N03',
    severity: 'warning',
    has: voice('hall'),
    hasNot: voice('hall lamp'),
    says: /is called like the room “Hall”/,
  },
  {
    id: 'N03',
    severity: 'warning',
    has: both(voice('evening'), (s) => void addGroup(s, 'Evening', ['bench-lamp'])),
    hasNot: both(voice('bench lamp'), (s) => void addGroup(s, 'Evening', ['bench-lamp'])),
    says: /the group “Evening”/,
  },
  {
    id: 'N04',
    severity: 'warning',
    has: voice('bench_lamp'),
    hasNot: voice('bench lamp'),
    says: /holds “_”, which nobody speaks/,
  },
  {
    id: 'N05',
    severity: 'warning',
    has: voice('turn table'),
    hasNot: voice('potter table'),
    says: /begins with “turn”/,
  },
  {
    id: 'N05',
    severity: 'warning',
    has: voice('light'),
    hasNot: voice('bench light'),
    says: /means every one of them/,
  },
  {
    id: 'I01',
    severity: 'error',
    has: remote(undefined, (s) => void addKey(s, s.remotes[0]!, 'Again', { protocol: 'nec', address: 4, command: 26 })),
    hasNot: remote(
      undefined,
      (s) => void addKey(s, s.remotes[0]!, 'Again', { protocol: 'nec', address: 4, command: 27 }),
    ),
    says: /NEC 04·1A is “Bench lamp” and “Again”/,
  },
  {
    id: 'I04',
    severity: 'error',
    has: remote(undefined, (s) => {
      s.remotes.push({ ...copyOf(s.remotes[0]!), id: 'second' as Site['remotes'][number]['id'], name: 'Second' })
    }),
    hasNot: remote(undefined, (s) => {
      const copy = copyOf(s.remotes[0]!)
      copy.keys[0]!.code = { protocol: 'nec', address: 9, command: 26 }
      s.remotes.push({ ...copy, id: 'second' as Site['remotes'][number]['id'], name: 'Second' })
    }),
    says: /one receiver hears both/,
  },
  {
    id: 'I02',
    severity: 'error',
    has: remote(undefined, repeats),
    hasNot: remote(
      undefined,
      both(repeats, (s) => {
        const way = s.ways.at(-1)!
        if (way.kind === 'remote') way.action = 'up'
      }),
    ),
    says: /does “toggle” again each 300 ms/,
  },
  {
    id: 'I03',
    severity: 'error',
    has: remote({ protocol: 'nec-ext', address: 0xfb04, command: 26 }),
    hasNot: remote({ protocol: 'nec-ext', address: 0x1204, command: 26 }),
    says: /NEC with the 8-bit address 04/,
  },
  {
    id: 'I05',
    severity: 'error',
    has: remote({ protocol: 'rc5', address: 40, command: 26 }),
    hasNot: remote({ protocol: 'rc5', address: 30, command: 26 }),
    says: /address 40: rc5 has 0 to 31/,
  },
  {
    id: 'I06',
    severity: 'error',
    has: (s) => addRemoteWay(s, s.channels[0]!),
    hasNot: remote(),
    says: /has no infrared receiver/,
  },
  {
    id: 'W01',
    severity: 'warning',
    has: (s) => {
      s.inputs[0]!.settleMs = 100
    },
    hasNot: (s) => {
      s.inputs[0]!.settleMs = 60
    },
    says: /of quick presses \(60 to 200 ms\) it misses 29 %/,
  },
  {
    id: 'W01',
    severity: 'error',
    has: (s) => {
      s.inputs[0]!.settleMs = 500
    },
    hasNot: both(
      (s) => {
        s.inputs[0]!.settleMs = 500
      },
      (s) => {
        s.inputs[0]!.settle = 'eager'
      },
    ),
    says: /misses 100 %/,
  },
  {
    id: 'W03',
    severity: 'warning',
    has: (s) => {
      s.loads[0]!.parallelSwitch = true
    },
    hasNot: () => {},
    says: /stays in parallel with the contact/,
  },
  {
    id: 'C02',
    severity: 'error',
    has: (s) => {
      s.services[0]!.host = 'https://app.invalid/'
    },
    hasNot: (s) => {
      s.services[0]!.host = 'app.invalid'
    },
    says: /scheme taken off, path and slash taken off/,
  },
  {
    id: 'C05',
    severity: 'danger',
    has: (s) => {
      s.services[0]!.rulesOpen = true
    },
    hasNot: (s) => {
      s.services[0]!.rulesOpen = false
    },
    says: /Anyone who knows its host/,
  },
  {
    id: 'H01',
    severity: 'danger',
    has: door({ door: { lock: 'fail-safe', place: 'outside', closesUnattended: false, warningDevice: false } }),
    hasNot: door(),
    says: /fail-safe strike on an outside door/,
  },
  {
    id: 'H01',
    severity: 'danger',
    has: door({ door: { lock: 'fail-secure', place: 'escape', closesUnattended: false, warningDevice: false } }),
    hasNot: door({ door: { lock: 'fail-safe', place: 'escape', closesUnattended: false, warningDevice: false } }),
    says: /fail-secure strike on an escape door/,
  },
  {
    id: 'H02',
    severity: 'danger',
    has: door({}, both(appToGate, gatePoint({ default: 1 }))),
    hasNot: door({}, appToGate),
    says: /has the default 1/,
  },
  {
    id: 'H02',
    severity: 'danger',
    has: door({}, both(appToGate, gateWidget({ kind: 'switch' }))),
    hasNot: door({}, both(appToGate, gateWidget({ kind: 'gauge' }))),
    says: /keeps 1 after a pulse/,
  },
  {
    id: 'H03',
    severity: 'error',
    has: door({ door: { lock: 'none', place: 'outside', closesUnattended: false, warningDevice: false } }, appToGate),
    hasNot: door({ door: { lock: 'none', place: 'outside', closesUnattended: false, warningDevice: false } }),
    says: /moves a door by app and has no position contact/,
  },
  {
    id: 'H04',
    severity: 'danger',
    has: door({ door: { lock: 'none', place: 'inside', closesUnattended: true, warningDevice: false } }),
    hasNot: door({ door: { lock: 'none', place: 'inside', closesUnattended: true, warningDevice: true } }),
    says: /may close unattended/,
  },
  {
    id: 'H05',
    severity: 'danger',
    has: door(
      {},
      both(appToGate, (s) => {
        addVoiceWay(s, gate(s))
      }),
    ),
    hasNot: door(
      {},
      both(appToGate, (s) => {
        addVoiceWay(s, gate(s)).pin = true
      }),
    ),
    says: /by voice without a spoken PIN/,
  },
  { id: 'H07', severity: 'note', has: door({ door: null }), hasNot: door(), says: /is not said/ },
  {
    id: 'H08',
    severity: 'warning',
    has: (s) => {
      s.loads[0]!.type = 'heater'
      const channel = s.channels[0]!
      if ('powerUp' in channel) {
        channel.powerUp = { policy: 'last' }
        channel.maxOnMs = 60_000
      }
    },
    hasNot: (s) => {
      s.loads[0]!.type = 'heater'
      const channel = s.channels[0]!
      if ('powerUp' in channel) channel.maxOnMs = 60_000
    },
    says: /its power-up policy is “last”/,
  },
  {
    id: 'B02',
    severity: 'error',
    has: feed((s) => {
      s.hubs[0]!.watch!.runsOn = 'hub machine'
    }),
    hasNot: feed(),
    says: /runs on the hub's own machine/,
  },
  {
    id: 'B03',
    severity: 'error',
    has: feed((s) => {
      s.hubs[0]!.watch = null
    }),
    hasNot: feed(),
    says: /has no heartbeat/,
  },
  {
    id: 'B03',
    severity: 'error',
    has: feed((s) => {
      s.ways = s.ways.filter((way) => way.channel !== 'spots' || way.kind !== 'wall')
    }),
    hasNot: feed(),
    says: /no switch stands at its controller/,
  },
  {
    id: 'B03',
    severity: 'error',
    has: feed((s) => {
      s.ways = s.ways.filter((way) => way.channel !== 'spots' || way.kind !== 'hub')
    }),
    hasNot: feed(),
    says: /no hub knows it/,
  },
  {
    id: 'B05',
    severity: 'danger',
    has: both(door(), (s) => {
      corner(s).pins['out:gate'] = { pin: 'D14', locked: false }
    }),
    hasNot: both(door(), (s) => {
      corner(s).pins['out:gate'] = { pin: 'D27', locked: false }
    }),
    says: /is on D14, which is not at rest while the board starts/,
  },
  {
    id: 'B05',
    severity: 'error',
    has: hold(2000),
    hasNot: hold(5000),
    says: /S1 hold after 2000 ms forgets the credentials; a hold of 5 s or more/,
  },
  {
    id: 'B05',
    severity: 'error',
    has: hold(8000, 'press'),
    hasNot: hold(8000),
    says: /S1 press forgets the credentials/,
  },
]

const changed = (change: Change): Site => {
  const site = produce(cleanSite(), (draft) => void change(draft as Site))
  const parsed = parseSite(site)
  if (!parsed.ok) throw parsed.error
  return site
}
const ofId = (findings: readonly Finding[], id: string) => findings.filter((finding) => finding.id === id)

describe.each(CASES)('$id $severity $says', ({ id, severity, has, hasNot, says }) => {
  it('a site that has it', () => {
    const list = ofId(checkSite(changed(has)), id).filter((finding) => says.test(finding.what))
    expect(list.map((finding) => finding.severity)).toContain(severity)
  })
  it('the nearest site that has not', () =>
    expect(ofId(checkSite(changed(hasNot)), id).filter((finding) => says.test(finding.what))).toEqual([]))
  it('each fix takes it away and leaves a legal site', () => {
    const site = changed(has)
    for (const finding of ofId(checkSite(site), id))
      for (const fix of finding.fixes) {
        const edit = fixEdit(site, finding, fix)
        const mended = applyOperations(site, edit.patch)
        expect(edit.patch.length).toBeGreaterThan(0)
        expect(parseSite(mended).ok).toBe(true)
        expect(
          ofId(checkSite(mended), id).filter((f) => f.what === finding.what && f.where.id === finding.where.id),
        ).toEqual([])
      }
  })
})

describe('what is fine has no finding', () => {
  it.each<[string, Change]>([
    ['a remote with a receiver', remote()],
    ['a feed with a watch', feed()],
    ['a sensor point', both(sensor, (s) => void addSensorPoint(s, s.sensors[0]!))],
    ['two spoken names', voice('bench lamp', 'shelf rail')],
  ])('%s', (_, change) => {
    expect(checkSite(changed(change)).map((finding) => `${finding.id} ${finding.what}`)).toEqual([])
  })
})

describe('credentials', () => {
  const site = cleanSite()
  const stored = (key: string, more: Partial<CredentialRecord> = {}): CredentialRecord => ({
    key,
    sameAs: key,
    newerThanFlash: false,
    usualPin: false,
    ...more,
  })
  const ids = (credentials: CredentialRecord[] | null, of = site): string[] =>
    checkSite(of, { ...NO_RECORD, credentials } satisfies RecordOfBuilds).map(
      (finding) => `${finding.id} ${finding.where.id}`,
    )
  const all = [
    'wifi/name',
    'wifi/password',
    'app/template-id',
    'app/device-token/corner',
    'hub/host',
    'hub/broker-user/corner',
    'hub/broker-password/corner',
    'hub/user',
    'hub/password',
  ]

  it('a file on its own says nothing of them', () => expect(ids(null)).toEqual([]))
  it('all stored: nothing', () => expect(ids(all.map((key) => stored(key)))).toEqual([]))
  it('C01 each that is missing', () => expect(ids(all.slice(1).map((key) => stored(key)))).toEqual(['C01 wifi/name']))
  it('C03 one token on two devices', () => {
    const two = produce(site, (draft) => {
      draft.controllers.push({
        ...copyOf(draft.controllers[0]!),
        id: 'other' as Site['controllers'][number]['id'],
        name: 'Other',
        pins: {},
      })
      draft.services[0]!.points.push({
        ...copyOf(draft.services[0]!.points[0]!),
        id: 'p2' as Site['services'][number]['points'][number]['id'],
        controller: 'other' as Site['controllers'][number]['id'],
      })
    })
    const keys = [...all, 'app/device-token/other']
    expect(
      ids(
        keys.map((key) => stored(key, key.includes('token') ? { sameAs: 'equal' } : {})),
        two,
      ),
    ).toContain('C03 app/device-token/other')
    expect(
      ids(
        keys.map((key) => stored(key)),
        two,
      ).filter((one) => one.startsWith('C03')),
    ).toEqual([])
  })
  it('C04 shown once and not kept', () => {
    const variable = produce(site, (draft) => {
      draft.services[0]!.kind = 'variable'
    })
    expect(
      ids(
        all.map((key) => stored(key)),
        variable,
      ),
    ).toContain('C04 app/secret-key/corner')
    expect(
      ids(
        [...all, 'app/thing-id/corner', 'app/secret-key/corner'].map((key) => stored(key)),
        variable,
      ).filter((one) => one.startsWith('C')),
    ).toEqual([])
  })
  it('C06 a PIN that everybody tries', () => {
    const provisioned = produce(site, (draft) => {
      draft.services[0]!.kind = 'provisioned'
    })
    expect(ids([stored('app/pairing-pin/corner', { usualPin: true })], provisioned)).toContain(
      'C06 app/pairing-pin/corner',
    )
  })
  it('C07 newer than the flash', () =>
    expect(ids(all.map((key) => stored(key, { newerThanFlash: key === 'wifi/password' })))).toEqual([
      'C07 wifi/password',
    ]))
})
