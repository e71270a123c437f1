import { planAndWrite } from '../pins'
import { BOARDS, FANS } from '../boards'
import { keepServiceKind, SERVICE_KINDS } from '../services'
import {
  newFeed,
  newInput,
  newPulsed,
  newStepped,
  newSwitched,
  plainCopy,
  type Channel,
  type Input,
  type KeyCode,
  type LinkId,
  type PartId,
  type Sensor,
  type Site,
} from '../site'
import { addAppWay, addControl, addHubWay, addLinkWays, addRemoteWay, addVoiceWay, addWallWay } from '../ways'

/** Changes to the clean site, by which a test says what is wrong with it. */

export type Change = (site: Site) => void
export const pin =
  (role: string, label: string): Change =>
  (s) => {
    s.controllers[0]!.pins[role] = { pin: label, locked: false }
  }
export const both =
  (...changes: Change[]): Change =>
  (s) =>
    changes.forEach((change) => change(s))
export const input =
  (changes: Partial<Input>): Change =>
  (s) => {
    Object.assign(s.inputs[0]!, changes)
  }
export const widget =
  (changes: object): Change =>
  (s) => {
    Object.assign(s.services[0]!.widgets[0]!, changes)
  }
export const point =
  (changes: object, index = 0): Change =>
  (s) => {
    Object.assign(s.services[0]!.points[index]!, changes)
  }
export const channel =
  (changes: object): Change =>
  (s) => {
    Object.assign(s.channels[0]!, changes)
  }
/** The controller's board as a profile of the maker's own. */
export const ownBoard =
  (changes: object): Change =>
  (s) => {
    const board = BOARDS.find(({ id }) => id === s.controllers[0]!.board)!
    s.profiles.boards.push({ ...plainCopy(board), id: 'mine', name: 'Mine', ...changes })
    s.controllers[0]!.board = 'mine'
  }
export const controller =
  (changes: object): Change =>
  (s) => {
    Object.assign(s.controllers[0]!, changes)
  }
export const withoutWays =
  (kinds: string[]): Change =>
  (s) => {
    s.ways = s.ways.filter((w) => w.channel !== 'bench-lamp' || !kinds.includes(w.kind))
  }
export const module =
  (changes: object): Change =>
  (s) => {
    Object.assign(s.controllers[0]!.module!, changes)
  }
export const load =
  (changes: object): Change =>
  (s) => {
    Object.assign(s.loads[0]!, changes)
  }
export const supply =
  (changes: object): Change =>
  (s) => {
    s.controllers[0]!.supply = {
      source: 'boxed-5v-3a',
      board: null,
      coils: null,
      own: null,
      reservoirMicrofarads: 0,
      coilsFromLogic: false,
      ...changes,
    }
  }
export const modem: Change = (s) => {
  s.controllers[0]!.parts.push({
    id: 'modem' as Site['controllers'][number]['parts'][number]['id'],
    profile: 'gsm-modem',
    name: 'Modem',
  })
}
export const box =
  (moduleCubicCentimetres: number): Change =>
  (s) => {
    s.controllers[0]!.enclosure = {
      volumeCubicInches: 18,
      conductors: [{ awg: 14, count: 4 }],
      internalClamps: true,
      yokes: 1,
      groundingConductors: 2,
      moduleCubicCentimetres,
    }
  }
/** What the mains side hangs on. */
export const mainsFeed =
  (changes: object): Change =>
  (s) => {
    Object.assign(s.controllers[0]!.mains!, changes)
  }
/** A fan of four steps on a selector of three bits. */
export const fan =
  (changes: object, table: (number | null)[] = [0, 1, 2, 3, 4, null, null, null]): Change =>
  (s) => {
    const corner = s.controllers[0]!
    const stepped = newStepped(s, 'Fan', corner, FANS[0]!, changes)
    s.channels.push(stepped)
    const knob = newInput(s, 'R1', corner, 'selector', { bits: 3, table })
    s.inputs.push(knob)
    addWallWay(s, stepped, knob)
    addAppWay(s, stepped)
    planAndWrite(s, corner.id)
  }
export const single = 'single-core-wifi-16'

export function addChannels(count: number): Change {
  return (s) => {
    for (let i = 0; i < count; i++) s.channels.push(newSwitched(s, `More ${i}`, s.controllers[0]!))
  }
}

/** Drafts of Immer cannot be cloned by the platform. */
export const copyOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T
export const plan: Change = (s) => planAndWrite(s, 'corner')
export const corner = (s: Site) => s.controllers[0]!

/** A door, with a push switch beside it. */
export const door = (changes: Partial<Extract<Channel, { kind: 'pulsed' }>> = {}, more: Change = () => {}): Change =>
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
export const gate = (s: Site) => s.channels.find((channel) => channel.id === 'gate')!
export const appToGate: Change = (s) => void addAppWay(s, gate(s))
export const gatePoint =
  (changes: object): Change =>
  (s) => {
    Object.assign(s.services[0]!.points.at(-1)!, changes)
  }
export const gateWidget =
  (changes: object): Change =>
  (s) => {
    Object.assign(s.services[0]!.widgets.at(-1)!, changes)
  }

export const feed = (more: Change = () => {}): Change =>
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

export const kind =
  (id: string, limits: object): Change =>
  (s) => {
    const shipped = SERVICE_KINDS.find((one) => one.id === id)!
    keepServiceKind(s, { ...shipped, limits: { ...shipped.limits, ...limits } })
  }
export const voice =
  (...names: string[]): Change =>
  (s) =>
    names.forEach((name, i) => {
      addVoiceWay(s, s.channels[i]!).name = name
    })
export const remote = (code: KeyCode = { protocol: 'nec', address: 4, command: 26 }, more: Change = () => {}): Change =>
  both(
    (s) => {
      corner(s).parts.push({ id: 'receiver' as PartId, profile: 'infrared-receiver', name: 'Receiver' })
      addRemoteWay(s, s.channels[0]!)
      s.remotes[0]!.keys[0]!.code = code
    },
    more,
    plan,
  )
export const repeats: Change = (s) => {
  s.remotes[0]!.keys[0]!.repeat = { policy: 'repeat', everyMs: 300 }
}
export const sensor: Change = (s) => {
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
export const twin =
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
export const pair: Change = (s) => {
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
export const hold =
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
