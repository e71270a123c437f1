import { addBell, addLedger, addLetterbox } from './ownKinds.testkit'
import { bench, hang, planned } from './setups.testkit'
import { FANS } from '../boards'
import { addServiceOfKind, familyOf } from '../services'
import { newInput, newPulsed, newStepped, newSwitched, type Channel, type Controller, type Site } from '../site'
import { produce } from 'immer'
import { addAppWay, addControl, addHubWay, addVoiceWay, addWallWay } from '../ways'

/** A site of one lamp, one fan and one strike, each with a switch, and reached through the kinds that are named. */

const STRIKE = { type: 'coil', watts: 6, supply: 'low-voltage', suppression: 'diode' } as const
const DOOR = { lock: 'fail-secure', place: 'inside', closesUnattended: false, warningDevice: false } as const

function ways(site: Site, box: Controller, channel: Channel, kinds: readonly string[], first: number): void {
  const input = newInput(site, `${channel.name} button`, box, 'momentary')
  site.inputs.push(input)
  addWallWay(site, channel, input)
  for (const kind of kinds) {
    const family = familyOf(site, kind)
    if (family === 'hub') {
      addHubWay(site, channel, site.hubs.find((hub) => hub.kind === kind)?.id)
      continue
    }
    if (family === 'voice') {
      // a bridge of its own: it speaks to the controller itself, by an id a lamp
      const way = addVoiceWay(site, channel, site.services.find((one) => one.kind === kind)!.id)
      Object.assign(way, { through: null, key: `id-${channel.id}` })
      continue
    }
    const service = site.services.find((one) => one.kind === kind)!
    addAppWay(site, channel, service.id, first)
    const point = service.points.at(-1)!
    point.key = channel.id
    if (channel.kind === 'stepped') Object.assign(point, { min: 0, max: channel.patterns.length - 1 })
    service.widgets = service.widgets.filter(({ point: of }) => of !== point.id)
    service.widgets.push({
      id: channel.id as never,
      name: channel.name,
      kind: channel.kind === 'stepped' ? 'slider' : 'switch',
      point: point.id,
      inverted: false,
      labels: null,
      width: 'full',
    })
  }
}

const OWN_KINDS: Readonly<Record<string, (site: Site) => void>> = {
  letterbox: addLetterbox,
  ledger: addLedger,
  bell: addBell,
}

export function lampFanStrike(kinds: readonly string[], name = 'Kinds', outage: 'local' | 'service' = 'local'): Site {
  const { site, box } = bench({ outage, minReportMs: 200 })
  // kinds of the maker's own are described first, where one is asked for
  for (const kind of kinds) OWN_KINDS[kind]?.(site)
  site.name = name
  for (const kind of kinds) if (kind !== 'broker') addServiceOfKind(site, kind)
  const fan = FANS[0]!
  const channels = [
    hang(site, newSwitched(site, 'Lamp', box), { type: 'led', watts: 20 }),
    hang(site, newStepped(site, 'Fan', box, fan), { type: 'motor', watts: 60, suppression: 'snubber' }),
    hang(site, newPulsed(site, 'Strike', box, { door: DOOR }), STRIKE),
  ]
  channels.forEach((channel, i) => ways(site, box, channel, kinds, i + 1))
  return planned(site)
}

/** A button that pairs the controller when it is held for 3 s, and one that makes it forget after 5 s. */
export const withHands = (site: Site): Site =>
  produce(site, (draft) => {
    const box = draft.controllers[0]!
    for (const [name, action, holdMs] of [
      ['Pair button', 'pair', 3_000],
      ['Reset button', 'reset', 5_000],
    ] as const) {
      const input = newInput(draft, name, box, 'momentary', { holdMs })
      draft.inputs.push(input)
      addControl(draft, {
        kind: 'controller',
        controller: box.id,
        action,
        source: { kind: 'wall', input: input.id, gesture: 'hold' },
      })
    }
  })
