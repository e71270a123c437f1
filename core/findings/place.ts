import { boardIn } from '../boards'
import { betweenLines, countedAmps, figure, touchesMains } from '../electrics'
import {
  channelOf,
  channelsOn,
  inputOf,
  loadOf,
  roomOf,
  type Channel,
  type Controller,
  type Input,
  type Load,
  type OldWiring,
  type Site,
} from '../site'
import { addSwitchFor, addWallWay } from '../ways'
import { controllerPlace, inputPlace, type Check, type Finding, type Where } from './finding'

/** What the place brings: switches that are in the wall already, a neutral that is not, the phases of the mains. */

const WORDS: Record<OldWiring['switching'], string> = {
  'one-way': 'one switch',
  'two-way': 'two switches',
  intermediate: 'three switches or more',
}
interface WallHere {
  readonly way: Extract<Site['ways'][number], { kind: 'wall' }>
  readonly input: Input
  readonly channel: Channel
  readonly wall: OldWiring
}
/** Each wall way whose switch is in a room where somebody has looked. */
const walls = (site: Site): WallHere[] =>
  site.ways.flatMap((way): WallHere[] => {
    const input = way.kind === 'wall' ? inputOf(site, way.input) : undefined
    const wall = roomOf(site, input?.room ?? null)?.wall
    return way.kind === 'wall' && input && wall ? [{ way, input, channel: channelOf(site, way.channel)!, wall }] : []
  })

/** W09 follow where several switches work one lamp */
const followsOneOfSeveral: Check = (site) =>
  walls(site).flatMap(({ way, input, channel, wall }): Finding[] => {
    if (wall.switching === 'one-way' || !way.bindings.some(({ gesture }) => gesture === 'follow')) return []
    return [
      {
        id: 'W09',
        severity: 'error',
        title: 'Two-way switch cannot be followed',
        where: inputPlace(input),
        what: `${WORDS[wall.switching]} work the lamp there; ${channel.name} follows ${input.name}.`,
        why: 'It sets on and off by its position: another switch has no effect until this one is moved.',
        fixes: [
          {
            label: 'Toggle at each flip',
            change: (draft) => {
              const target = draft.ways.find(({ id }) => id === way.id)
              if (target?.kind === 'wall') target.bindings = [{ gesture: 'flip', action: 'toggle' }]
            },
          },
        ],
      },
    ]
  })

/** W10 a second switch in the wall that works nothing any more */
const otherSwitchIsDead: Check = (site) =>
  walls(site).flatMap(({ input, channel, wall }): Finding[] => {
    const inputs = site.ways.filter((way) => way.kind === 'wall' && way.channel === channel.id)
    if (wall.switching === 'one-way' || inputs.length !== 1) return []
    return [
      {
        id: 'W10',
        severity: 'warning',
        title: 'Second switch has no input',
        where: inputPlace(input),
        what: `${WORDS[wall.switching]} work the lamp there; ${channel.name} has one input, ${input.name}.`,
        why:
          'The switch at the other end does nothing. The wires between the switches carry mains today: they ' +
          'must be disconnected and proved dead at both ends before they carry an input.',
        fixes: [
          {
            label: 'Add a second switch with its own input',
            change: (draft) => {
              const target = draft.channels.find(({ id }) => id === channel.id)!
              const controller = draft.controllers.find(({ id }) => id === target.controller)!
              addWallWay(draft, target, addSwitchFor(draft, target, input.kind, controller))
            },
          },
        ],
      },
    ]
  })

/** W11 a glow lamp in the old switch */
const glowLamp: Check = (site) =>
  walls(site).flatMap(({ input, channel, wall }): Finding[] => {
    if (!wall.glow) return []
    const controller = site.controllers.find(({ id }) => id === input.controller)!
    const boxed = boardIn(site, controller.board)?.boxed
    const load = loadOf(site, channel.load)
    if (boxed && boxed.switchesAtMains !== false)
      return [
        {
          id: 'W11',
          severity: 'error',
          title: 'Glow lamp may read as closed',
          where: inputPlace(input),
          what: `${input.name} has a glow lamp, and the switch terminal of ${controller.name} stands at mains.`,
          why: 'The glow lamp lets a little current through the open switch: the input may always read closed.',
          fixes: [],
        },
      ]
    if (load?.parallelSwitch)
      return [
        {
          id: 'W11',
          severity: 'warning',
          title: 'Glow lamp across the contact',
          where: inputPlace(input),
          what: `The old switch of ${load.name} has a glow lamp, and stays beside the contact.`,
          why: 'Its current goes through the lamp: an LED lamp glimmers while everything is off.',
          fixes: [],
        },
      ]
    return []
  })

/** L22 no neutral where the controller is fed from mains */
const noNeutral: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const wall = roomOf(site, controller.room)?.wall
    const feeds = boardIn(site, controller.board)?.boxed || (controller.supply && touchesMains(site, controller))
    if (!wall || wall.neutral || !feeds) return []
    return [
      {
        id: 'L22',
        severity: 'error',
        title: 'No neutral in the box',
        where: { ...controllerPlace(controller), step: 'bench' },
        what: `There is no neutral in the box where ${controller.name} is to sit, and it is fed between line and neutral.`,
        why: 'Earth is no neutral. Run a neutral wire to the box, or put the controller where neutral is.',
        fixes: [],
      },
    ]
  })

const across = (site: Site): { channel: Channel; load: Load }[] =>
  site.channels.flatMap((channel) => {
    const load = loadOf(site, channel.load)
    return load?.supply === 'mains' && load.acrossLines ? [{ channel, load }] : []
  })
const changed = (id: string, change: (load: Load) => void) => (draft: Site) =>
  change(draft.loads.find((load) => load.id === id)!)

const atLoad = (channel: Channel, { id, name }: Load): Where => ({
  thing: 'load',
  id,
  name,
  channel: channel.id,
  controller: channel.controller,
  step: 'bench',
})

/** L23 a load between two lines where the site has one */
const noSecondLine: Check = (site) =>
  across(site)
    .filter(() => site.mains.phases === 'one')
    .map(({ channel, load }): Finding => ({
      id: 'L23',
      severity: 'error',
      title: 'Site has only one line',
      where: atLoad(channel, load),
      what: `${load.name} is to hang between two lines; the site has one line of ${site.mains.volts} V.`,
      why: 'There is no second line to wire it to.',
      fixes: [
        {
          label: 'Set: between line and neutral',
          change: changed(load.id, (own) => {
            delete own.acrossLines
          }),
        },
      ],
    }))

/** L24 a load between two lines, of which its contact opens one */
const otherLineStays: Check = (site) =>
  across(site)
    .filter(({ load }) => site.mains.phases !== 'one' && load.contactor === null)
    .map(({ channel, load }): Finding => ({
      id: 'L24',
      severity: 'danger',
      title: 'Second line stays on the load',
      where: atLoad(channel, load),
      what: `${load.name} hangs between two lines, ${betweenLines(site)} V; ${channel.name} opens one of them.`,
      why: 'When off, it is still connected to the other line: anyone who opens it can touch mains. Both poles must open together.',
      fixes: [
        {
          label: 'Fit a contactor that opens both lines',
          change: changed(load.id, (own) => {
            own.contactor = 'contactor-25a'
          }),
        },
      ],
    }))

/** L26 a load that another channel must feed first; L27 one that feeds itself, or hangs on what is nowhere switched */
const fedThroughAnother: Check = (site) =>
  site.channels.flatMap((channel): Finding[] => {
    const load = loadOf(site, channel.load)
    if (load?.supply !== 'low-voltage' || load.feed.from !== 'load') return []
    const feeder = site.channels.find((one) => one.load === (load.feed.from === 'load' ? load.feed.load : ''))
    const supply = loadOf(site, load.feed.load)!
    const here = feeder && feeder.id !== channel.id && feeder.controller === channel.controller
    return [
      {
        id: here ? 'L26' : 'L27',
        severity: here ? 'note' : 'error',
        title: here ? 'Depends on another channel' : 'Supply is not switched here',
        where: atLoad(channel, load),
        what: here
          ? `${load.name} hangs on ${supply.name}, which ${feeder.name} switches.`
          : `${load.name} is to hang on ${supply.name}, which no other channel of its controller switches.`,
        why: here
          ? `With ${feeder.name} off it stays off, whatever its own switch and the screens show.`
          : 'No sheet shows a wire to its supply.',
        fixes: [
          {
            label: 'Give it its own supply',
            change: changed(load.id, (own) => {
              own.feed = { from: 'own' }
            }),
          },
        ],
      },
    ]
  })

/** L25 more current than one terminal of the module stands, if its contacts are fed in a chain */
const chainedTerminals: Check = (site) =>
  site.controllers.flatMap((controller: Controller): Finding[] => {
    const { module } = controller
    if (!module || boardIn(site, controller.board)?.boxed) return []
    const loads = channelsOn(site, controller.id).flatMap((channel) => {
      const load = loadOf(site, channel.load)
      return load?.supply === 'mains' && load.contactor === null ? [load] : []
    })
    const each = [...new Map(loads.map((load) => [load.id, load])).values()]
    const amps = each.reduce((sum, load) => sum + countedAmps(site, load), 0)
    if (each.length < 2 || amps <= module.contactAmps) return []
    return [
      {
        id: 'L25',
        severity: 'note',
        title: 'Contacts need separate feeds',
        where: { ...controllerPlace(controller), step: 'bench' },
        what:
          `The loads on the relays of ${controller.name} take ${figure(amps)} A together; a terminal and its trace ` +
          `stand the ${module.contactAmps} A of one relay (common practice).`,
        why: 'A line that goes from terminal to terminal carries all of it through the first terminal, which burns.',
        fixes: [],
      },
    ]
  })

export const placeChecks: readonly Check[] = [
  followsOneOfSeveral,
  otherSwitchIsDead,
  glowLamp,
  noNeutral,
  noSecondLine,
  otherLineStays,
  fedThroughAnother,
  chainedTerminals,
]
