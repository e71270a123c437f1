import { boardIn } from '../boards'
import {
  channelsOn,
  groupOf,
  inputOf,
  inputsOn,
  loadOf,
  longHoldOf,
  positionOf,
  powerUpOf,
  rulesFor,
  sensorOf,
  timeText,
  type Channel,
  type Control,
  type Controller,
  type Input,
  type Site,
} from '../site'
import { dayText, clockText, sourceWords } from '../ways'
import { CUT, draft, listed, type Draft } from './testItem'

/** Tests of a controller as a whole: groups, rules, contacts, limits, power and outages. */

const membersHere = (site: Site, controller: Controller, group: string): Channel[] =>
  channelsOn(site, controller.id).filter((channel) => groupOf(site, group)!.members.includes(channel.id))

/** What a group's members here do at a word: pulsed ones never take part, `off` spares essential ones. */
function groupSeen(members: readonly Channel[], action: string): string {
  const own = members.filter(({ kind }) => kind !== 'pulsed')
  const spared = own.filter(({ essential }) => essential)
  if (action !== 'off') return `${listed(own.map(({ name }) => name)) || 'nothing'}: ${action}; no door moves`
  const moved = listed(own.filter(({ essential }) => !essential).map(({ name }) => name)) || 'nothing'
  return `${moved}: off${spared.length ? `; ${listed(spared.map(({ name }) => name))}: no change` : ''}; no door moves`
}

function controlTest(site: Site, controller: Controller, control: Control): Draft[] {
  const source = sourceWords(site, control.source)
  if (control.kind === 'controller') {
    if (control.controller !== controller.id) return []
    const hold = longHoldOf(control)
    const held = hold === null ? '' : `, held for ${timeText(hold)} at least`
    return [draft(`control:${control.id}`, null, `${source}${held}`, CONTROLLER_SEEN[control.action])]
  }
  const members = membersHere(site, controller, control.group)
  if (members.length === 0 || !sourceIsHere(site, control, controller.id)) return []
  const { name } = groupOf(site, control.group)!
  return [
    draft(
      `control:${control.id}`,
      null,
      `Put on what ${name} has here, then: ${source}`,
      groupSeen(members, control.action),
    ),
  ]
}

const GROUP_BY = {
  app: () => 'on the phone',
  hub: (name: string) => `from the hub (“${name}”)`,
  voice: (name: string) => `by voice (“${name}”)`,
}

/** Groups and the controller's own actions, by what works them here; a deaf one hears no network. */
export const controlTests = (site: Site, controller: Controller, deaf = false): Draft[] => [
  ...(controller.modeEntity && !deaf
    ? [
        draft(
          'mode:hub',
          null,
          `Say manual, then auto, from the hub (“${controller.modeEntity.name}”)`,
          'its rules stop, then run again, and the hub shows which',
        ),
      ]
    : []),
  ...site.controls.flatMap((control) => controlTest(site, controller, control)),
  ...(deaf ? [] : site.groups).flatMap((group) =>
    (group.ways ?? []).flatMap((way, at): Draft[] => {
      const members = membersHere(site, controller, group.id)
      if (members.length === 0) return []
      const by = GROUP_BY[way.kind]('name' in way ? way.name : '')
      return [
        draft(
          `group:${group.id}:${at}`,
          null,
          `Turn ${group.name} on, then off, ${by}`,
          `all on; then ${groupSeen(members, 'off')}`,
        ),
      ]
    }),
  ),
]

function sourceIsHere(site: Site, { source }: Site['controls'][number], controller: string): boolean {
  switch (source.kind) {
    case 'wall':
      return inputOf(site, source.input)?.controller === controller
    case 'remote':
      return site.remotes.find(({ id }) => id === source.remote)?.controller === controller
    case 'link':
      return site.links.find(({ id }) => id === source.link)?.controller === controller
  }
}

const CONTROLLER_SEEN: Readonly<Record<Extract<Control, { kind: 'controller' }>['action'], string>> = {
  auto: 'its rules run again',
  manual: 'its rules stop',
  autoToggle: 'its rules stop, and run again at the second',
  report: 'every screen shows the true state',
  pair: 'it starts pairing, and its log says so; a shorter press does not',
  reset: 'it deletes its credentials and leaves the network; a shorter press does not',
}

/** Rules of the channels here, each made to act and to stop. */
export const ruleTests = (site: Site, controller: Controller): Draft[] =>
  channelsOn(site, controller.id).flatMap((channel) =>
    rulesFor(site, channel.id).map((rule): Draft => {
      if (rule.kind === 'schedule')
        return draft(
          `rule:${rule.id}`,
          channel.id,
          `${rule.name}: wait for ${dayText(rule.days)} ${clockText(rule.minute)}, or set the clock just before it`,
          `${channel.name}: ${rule.action === 'level' ? `level ${rule.level ?? 0}` : rule.action}`,
        )
      const sensor = sensorOf(site, rule.sensor)!
      const [rises, falls] = rule.direction === 'above' ? ['above', 'below'] : ['below', 'above']
      return draft(
        `rule:${rule.id}`,
        channel.id,
        `${rule.name}: bring ${sensor.name} ${rises} ${rule.on} ${sensor.unit}, then ${falls} ${rule.off} ${sensor.unit}; ` +
          'then unplug it',
        `${channel.name}: on, then off; without a reading ${rule.whenStale === 'off' ? 'off' : 'no change'} after ` +
          timeText(sensor.staleMs ?? 3 * sensor.everyMs),
      )
    }),
  )

/** Longest time that is waited for at the bench, ms. */
const WORTH_WAITING_MS = 600_000

/** Position contacts, and limits that can be waited for. */
export const channelTests = (site: Site, controller: Controller): Draft[] =>
  channelsOn(site, controller.id).flatMap((channel) => [
    ...(positionOf(channel)
      ? [
          draft(
            `position:${channel.id}`,
            channel.id,
            `Move the door of ${channel.name} by hand, open and closed`,
            'every screen shows open, then closed, without any command',
          ),
        ]
      : []),
    ...('maxOnMs' in channel && channel.maxOnMs !== null && channel.maxOnMs <= WORTH_WAITING_MS
      ? [
          draft(
            `limit:${channel.id}`,
            channel.id,
            `Turn ${channel.name} on and leave it`,
            `it turns off by itself after ${timeText(channel.maxOnMs)}`,
          ),
        ]
      : []),
  ])

const selectorOf = (site: Site, { id }: Channel): Input | undefined =>
  site.ways
    .flatMap((way) => (way.kind === 'wall' && way.channel === id ? [inputOf(site, way.input)!] : []))
    .find(({ kind }) => kind === 'selector')

/** What to do before the power is taken, so that the policy shows, and what must then be heard. */
export function powerTests(site: Site, channel: Channel, storeMs: number): Draft[] {
  const { id, name } = channel
  const policy = powerUpOf(channel).policy
  const test = (key: string, action: string, expected: string): Draft =>
    draft(`start:${id}${key}`, id, `${action}; ${CUT}`, `${name}: ${expected}`)
  switch (policy) {
    case 'off':
      return [
        test(
          '',
          channel.kind === 'switched' || channel.kind === 'stepped' ? `Turn ${name} on` : `Leave ${name} alone`,
          'no click, still off',
        ),
      ]
    case 'on':
      return [test('', `Leave ${name} as it is`, 'on, with one click')]
    case 'last':
      return [
        test(':on', `Turn ${name} on, and wait ${timeText(storeMs + 1_000)}`, 'on again, with one click'),
        test(':off', `Turn ${name} off, and wait ${timeText(storeMs + 1_000)}`, 'still off'),
      ]
    case 'wall':
      return selectorOf(site, channel)
        ? [
            test(
              '',
              `Leave ${selectorOf(site, channel)!.name} at its highest level`,
              'that level again; left at off it stays off',
            ),
          ]
        : [test('', `Leave the switch of ${name} closed`, 'on; with the switch open it stays off')]
    case 'service':
      return [test('', `Set ${name} on the phone`, 'what the phone says')]
    case 'timetable':
      return [test('', `Check what the schedule of ${name} says now`, 'that state, once the clock is set')]
  }
}

/** Each channel with what it really works, once: the ways have been tried before. */
export function loadTests(site: Site, channel: Channel): Draft {
  const load = loadOf(site, channel.load)
  // what nobody has named must not be silently left out
  if (!load)
    return draft(
      `load:${channel.id}:unnamed`,
      channel.id,
      `Find out what ${channel.name} switches, and enter it on the bench; until then treat it as mains`,
      'its load is entered, and a new test run tests it with its load',
    )
  const first = site.ways.find((way) => way.channel === channel.id && way.kind !== 'voice')
  const how: Record<Channel['kind'], readonly [string, string]> = {
    switched: [`Turn ${channel.name} on, then off`, `${load.name}: on, then off; nothing else changes`],
    feed: [`Let ${channel.name} open and close`, `${load.name}: without power, then with it again`],
    stepped: [
      `Take ${channel.name} through all its levels, 0 to the top`,
      `${load.name}: faster at each level, still at 0`,
    ],
    pulsed: [`Pulse ${channel.name}`, `${load.name}: moves once, and is free again`],
    paired: [
      `Run ${channel.name} a little in each direction`,
      `${load.name}: ${channel.kind === 'paired' ? `${channel.labels[0]} for ${channel.labels[0]}` : 'the right way'}` +
        '; if it is the other way round, change its two wires with the supply off',
    ],
  }
  const [action, expected] = how[channel.kind]
  const parallel = load.parallelSwitch ? '; the old switch beside it works it too, and screens may then be wrong' : ''
  return draft(
    `load:${channel.id}`,
    channel.id,
    `${action}${first ? '' : ' (it has no way in yet)'}`,
    expected + parallel,
  )
}

/** The board's own things: its button and its light. */
export function boardTests(site: Site, controller: Controller): Draft[] {
  const own = boardIn(site, controller.board)?.own
  const button = own?.button
  const onButton =
    button &&
    inputsOn(site, controller.id).some(({ id }) => controller.pins[`in:${id}`]?.pin.toUpperCase() === button.label)
  return [
    ...(controller.statusLight && own?.light && controller.link !== 'none'
      ? [
          draft(
            'board:light',
            null,
            'Look at the board’s light: with the router off, then on',
            'it blinks slowly while it connects, and is steady when connected',
          ),
        ]
      : []),
    ...(onButton
      ? [
          draft(
            'board:button',
            null,
            `Turn the power on while nobody holds ${button.label}`,
            'it starts (held at power-up, it waits for programming)',
          ),
        ]
      : []),
  ]
}
