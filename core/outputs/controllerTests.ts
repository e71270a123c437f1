import { boardIn } from '../boards'
import {
  channelsOn,
  coprocessorOf,
  groupOf,
  inputOf,
  inputsOn,
  loadOf,
  longHoldOf,
  positionOf,
  rulesFor,
  sensorOf,
  timeText,
  type Channel,
  type Control,
  type Controller,
  type Site,
} from '../site'
import type { Expect } from '../witness'
import { dayText, clockText, sourceWords } from '../ways'
import { draft, listed, type Draft } from './testItem'
import { away, causes, eye, heard, here, turn, turnsAtScreen, waits, type Heard } from './testWatches'

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
    return [
      draft(
        `control:${control.id}`,
        null,
        `${source}${held}`,
        CONTROLLER_SEEN[control.action],
        actionHeard(site, controller, control.action),
      ),
    ]
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
      groupHeard(members, control.action, [CONTROL_SOURCE(site, control)]),
    ),
  ]
}

const CONTROL_SOURCE = (site: Site, { source }: Control): string =>
  source.kind === 'link' ? (site.links.find(({ id }) => id === source.link)?.kind ?? 'nearby') : source.kind

/** What a group's members here must say at a word; a door among them, or an essential one, may not move. */
function groupHeard(members: readonly Channel[], action: string, by: readonly string[]): Heard {
  const to = action === 'on' ? 'on' : action === 'off' ? 'off' : 'any'
  const turns = members
    .filter(({ kind, essential }) => kind !== 'pulsed' && !(action === 'off' && essential))
    .map((channel) => turn(channel, channel.kind === 'feed' ? 'any' : to, by))
  return heard(turns.length > 0 ? [{ kind: 'all', turns }] : [])
}

/** What a controller says of an action of its own. */
function actionHeard(
  site: Site,
  { id }: Controller,
  action: Extract<Control, { kind: 'controller' }>['action'],
): Heard {
  switch (action) {
    case 'auto':
    case 'manual':
      // the status line to a radio says no modes
      if (coprocessorOf(site, id)) return heard([], eye(`Do its rules ${action === 'auto' ? 'run' : 'stop'}?`))
      return heard([{ kind: 'mode', channel: null, mode: action }])
    case 'autoToggle':
      return heard([
        { kind: 'mode', channel: null, mode: 'manual' },
        { kind: 'mode', channel: null, mode: 'auto' },
      ])
    case 'report':
      return heard([], eye('Does every screen show the true state now?'))
    case 'pair':
      return heard([{ kind: 'log', says: 'pairing' }])
    case 'reset':
      return heard([away(id)])
  }
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
          heard([
            { kind: 'mode', channel: null, mode: 'manual' },
            { kind: 'mode', channel: null, mode: 'auto' },
          ]),
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
          groupOverAndBack(members, GROUP_SOURCES[way.kind]),
        ),
      ]
    }),
  ),
]

const GROUP_SOURCES = { app: ['app'], hub: ['hub'], voice: ['app', 'hub'] }

function groupOverAndBack(members: readonly Channel[], by: readonly string[]): Heard {
  const off = groupHeard(members, 'off', by).hears
  return heard([...groupHeard(members, 'on', by).hears, ...off])
}

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
          `${rule.name}: ${afterHand(controller, false)}wait for ${dayText(rule.days)} ${clockText(rule.minute)}, or set the clock just before it`,
          `${channel.name}: ${rule.action === 'level' ? `level ${rule.level ?? 0}` : rule.action}`,
          heard([
            waits(
              channel,
              rule.action === 'level' ? (rule.level ?? 0) : rule.action,
              causes(site, channel, 'schedule'),
            ),
          ]),
        )
      const sensor = sensorOf(site, rule.sensor)!
      const [rises, falls] = rule.direction === 'above' ? ['above', 'below'] : ['below', 'above']
      return draft(
        `rule:${rule.id}`,
        channel.id,
        `${rule.name}: ${afterHand(controller, true)}bring ${sensor.name} ${rises} ${rule.on} ${sensor.unit}, then ${falls} ${rule.off} ${sensor.unit}, ` +
          `then ${rises} ${rule.on} ${sensor.unit} again; then unplug it`,
        `${channel.name}: on, off, on; without a reading ${rule.whenStale === 'off' ? 'off' : 'still on'} after ` +
          timeText(sensor.staleMs ?? 3 * sensor.everyMs),
        ruleHeard(site, channel, rule.whenStale, sensor.id),
      )
    }),
  )

/** A hand's command holds rules off, and the tests before this one were made by hand: a start of the board ends it. */
function afterHand({ auto }: Controller, threshold: boolean): string {
  if (auto.hand === 'ignore' || (auto.hand === 'yield' && !threshold)) return ''
  const why = auto.hand === 'yield' ? `for ${auto.yieldMinutes} min ` : ''
  return `turn the board’s power off and on (after a hand its rules pause ${why}here); then `
}

/** A rule turns on, off and on; then its sensor is silent, which the board says. */
function ruleHeard(site: Site, channel: Channel, whenStale: 'off' | 'keep', sensor: string): Heard {
  const by = causes(site, channel, 'rule')
  const [on, off] = [waits(channel, 'on', by), waits(channel, 'off', by)]
  // the status line to a radio says no log
  const stale: Expect[] = coprocessorOf(site, channel.controller)
    ? []
    : [{ kind: 'log', says: `sensor ${sensor}: stale` }]
  const then: Expect = whenStale === 'off' ? off : { kind: 'still', channel: channel.id, ms: 5_000 }
  return heard([on, off, on, ...stale, then])
}

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
            heard([waits(channel, 'on', null), waits(channel, 'off', null)]),
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
            limitHeard(site, channel, channel.maxOnMs),
          ),
        ]
      : []),
  ])

/** A limit may come so much too early or late: a link's delay, a clock of a board without a crystal. */
const LIMIT_SLACK_MS = 3_000

const limitHeard = (site: Site, channel: Channel, maxOnMs: number): Heard =>
  heard([
    waits(channel, 'on', null),
    {
      ...waits(channel, 'off', causes(site, channel, 'limit')),
      notBeforeMs: Math.max(0, maxOnMs - Math.max(LIMIT_SLACK_MS, maxOnMs / 50)),
      withinMs: maxOnMs + Math.max(LIMIT_SLACK_MS, maxOnMs / 50),
    },
  ])

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
    heard(first ? loadHeard(channel) : [], eye(`${expected.replace(/; if it is the other way.*/, '')}. Was it so?`)),
  )
}

/** What a board says while a channel works its load, by whatever way. */
const loadHeard = (channel: Channel): Expect[] =>
  channel.kind === 'feed'
    ? [waits(channel, 'off', null), waits(channel, 'on', null)]
    : channel.kind === 'paired'
      ? [{ kind: 'all', turns: [turn(channel, 1, null), turn(channel, 2, null)] }]
      : turnsAtScreen(channel, []).map(fromAnywhere)

const fromAnywhere = (expect: Expect): Expect =>
  expect.kind === 'turn'
    ? { ...expect, turn: { ...expect.turn, by: null } }
    : expect.kind === 'all'
      ? { ...expect, turns: expect.turns.map((one) => ({ ...one, by: null })) }
      : expect

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
            heard([away(controller.id), here(controller.id)], eye('Did it blink slowly, and is it steady now?')),
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
            heard([away(controller.id), here(controller.id)]),
          ),
        ]
      : []),
  ]
}
