import { reachesDirectly } from '../services'
import { RESERVED_LEVELS } from '../topics'
import {
  channelOf,
  channelsOn,
  controllerOf,
  grouped,
  ID_PATTERN,
  LONGEST_NAME,
  inputsOn,
  isUsed,
  kindOf,
  outputsOf,
  pointOf,
  powerUpOf,
  roomOf,
  topLevel,
  understands,
  waysTo,
  widgetsOf,
  type AppWay,
  type Channel,
  type Input,
  type Misfit,
  type Point,
  type Site,
  type Widget,
} from '../site'
import { addSwitchFor, addWallWay, columnOf, freeVp, usualWidget } from '../ways'
import { channelPlace, inCell, type Check, type Finding, type Where } from './finding'

interface AppPath {
  readonly way: AppWay
  readonly point: Point
}

const appPaths = (site: Site): AppPath[] =>
  site.ways.flatMap((way) => {
    const point = way.kind === 'app' ? pointOf(site, way.service, way.point) : undefined
    return way.kind === 'app' && point ? [{ way, point }] : []
  })

const pointIn = (draft: Site, service: string, id: string): Point =>
  draft.services.find((s) => s.id === service)!.points.find((p) => p.id === id)!

/** M01 same virtual pin twice on one device */
export const sameVirtualPin: Check = (site) =>
  site.services.flatMap((service) => {
    const seen = new Map<string, Point>()
    return service.points.flatMap((point): Finding[] => {
      const key = `${point.controller}/${point.vp}`
      const first = seen.get(key)
      if (!first) {
        seen.set(key, point)
        return []
      }
      const way = site.ways.find((w) => w.kind === 'app' && w.service === service.id && w.point === point.id)
      const where: Where = way
        ? inCell(site, way.channel, 'point', point.id, point.name, 'app')
        : { thing: 'point', id: point.id, name: point.name, controller: point.controller, step: 'ways', column: 'app' }
      const next = freeVp(site, service.id, point.controller)
      return [
        {
          id: 'M01',
          severity: 'error',
          title: 'Virtual pin used twice',
          where,
          what: `vp${point.vp} stands for both ${first.name} and ${point.name} on one device.`,
          why: 'One widget works both, and the state shown is whichever came last.',
          fixes: [
            {
              label: `Change ${point.name} to vp${next}`,
              change: (draft) => {
                pointIn(draft, service.id, point.id).vp = next
              },
            },
          ],
        },
      ]
    })
  })

/** M02 ranges differ along one path */
export const rangesDiffer: Check = (site) =>
  appPaths(site).flatMap(({ way, point }): Finding[] => {
    const positions = Math.floor((point.max - point.min) / point.step) + 1
    const channel = channelOf(site, way.channel)!
    const levels = topLevel(channel) + 1
    // a point that cannot say every level of a stepped channel is finding F05
    if (positions <= levels) return []
    const stepped = channel.kind === 'stepped'
    return [
      {
        id: 'M02',
        severity: 'warning',
        title: 'Value ranges do not match',
        where: inCell(site, way.channel, 'point', point.id, point.name, 'app'),
        what:
          `The point runs ${point.min}–${point.max} by ${point.step} (${positions} positions), ` +
          `${channel.name} has ${levels}: ${positions - levels} of ${positions} positions have no level of their own.`,
        why: stepped
          ? 'They snap back to a level: the screen jumps.'
          : `Everything above ${point.min} is on, and comes back as ${point.max}: the screen jumps.`,
        fixes: [
          {
            label: `Set the point: 0–${levels - 1}, step 1`,
            change: (draft) => {
              Object.assign(pointIn(draft, way.service, point.id), {
                min: 0,
                max: levels - 1,
                step: 1,
                default: point.default > point.min ? 1 : 0,
                unit: '',
              })
            },
          },
        ],
      },
    ]
  })

interface Inverted {
  readonly widget: Widget
  readonly service: string
}

const invertedWidgets = (site: Site, paths: readonly AppPath[]): Inverted[] =>
  paths.flatMap(({ way, point }) =>
    widgetsOf(site, way.service, point.id)
      .filter((widget) => widget.inverted)
      .map((widget) => ({ widget, service: way.service })),
  )

/** `active`: the level on which the module closes; null: no module says. */
const invertOnce =
  (channel: Channel, active: Channel['active'] | null, widgets: readonly Inverted[]) => (draft: Site) => {
    if (active) draft.channels.find((c) => c.id === channel.id)!.active = active
    for (const { widget, service } of widgets)
      draft.services.find((s) => s.id === service)!.widgets.find((w) => w.id === widget.id)!.inverted = false
  }

const polarityUpsideDown = (
  channel: Channel,
  active: Channel['active'],
  inverted: Widget | undefined,
): Omit<Finding, 'fixes'> => ({
  id: 'M03',
  severity: 'error',
  title: 'Polarity inverted',
  where: {
    ...channelPlace(channel),
    role: `out:${channel.id}`,
    step: 'bench',
  },
  what:
    `The module closes on ${active}, ${channel.name} is driven to close on ${channel.active}.` +
    (inverted ? ` ${inverted.name} hides it, since it is inverted in the widget.` : ''),
  why: 'On is off and off is on, also at start: the safe level closes the relay.',
})

function invertedInWidget(site: Site, channel: Channel, { id, name }: Widget, twice: boolean): Omit<Finding, 'fixes'> {
  return {
    id: 'M03',
    severity: twice ? 'error' : 'warning',
    title: twice ? 'Inverted twice' : 'Inverted in the widget',
    where: inCell(site, channel.id, 'widget', id, name, 'app'),
    what: twice
      ? `${name} is inverted in the widget and again in the output driver (${channel.active} closes).`
      : `${name} is inverted in the widget, not in the output driver.`,
    why: 'Only this widget inverts: wall, hub and power-up see the opposite.',
  }
}

/** M03 inverted twice, inverted in the widget, or not inverted where the module wants it */
export const inversion: Check = (site) => {
  const paths = grouped(appPaths(site), ({ way }) => way.channel)
  return site.channels.flatMap((channel): Finding[] => {
    const active = controllerOf(site, channel.controller)?.module?.active ?? null
    const wrongDriver = active !== null && active !== channel.active
    const widgets = invertedWidgets(site, paths.get(channel.id) ?? [])
    const first = widgets[0]
    if (!wrongDriver && !first) return []
    const found = wrongDriver
      ? polarityUpsideDown(channel, active, first?.widget)
      : invertedInWidget(site, channel, first!.widget, channel.active === 'low')
    const label = active ? `Invert only in the driver: ${active} closes` : 'Invert only in the driver'
    return [{ ...found, fixes: [{ label, change: invertOnce(channel, active, widgets) }] }]
  })
}

/** What is wrong with a widget that does not suit a channel: [title, what, why]. */
const MISFITS: Record<Misfit, (channel: Channel, widget: Widget, point: Point) => readonly [string, string, string]> = {
  'lets go': (channel, widget, point) => [
    'Push widget on a lasting channel',
    `${widget.name} is a push widget: it sends ${point.max} while held and ${point.min} when let go; ` +
      `${channel.name} keeps its state.`,
    'The lamp is on only while a finger is on the screen.',
  ],
  stays: (_channel, widget, point) => [
    'Latching widget on a pulse',
    `${widget.name} is a ${widget.kind}: it stays on ${point.max} after a pulse that is long over.`,
    'The second press sends off, which does nothing: every other press seems dead.',
  ],
  'two positions': (channel, widget) => [
    'Widget has too few positions',
    `${widget.name} is a switch with two positions; ${channel.name} has three: ` +
      `${outputsOf(channel)
        .map((output) => output.words)
        .join(', stop, ')}.`,
    'One direction, or stop, cannot be commanded.',
  ],
}

/** M04 widget's mode does not suit the channel */
export const widgetMode: Check = (site) =>
  appPaths(site).flatMap(({ way, point }) =>
    widgetsOf(site, way.service, point.id).flatMap((widget): Finding[] => {
      const channel = channelOf(site, way.channel)!
      const misfit = kindOf(channel).misfits[widget.kind]
      if (!misfit) return []
      const trouble = MISFITS[misfit](channel, widget, point)
      const better = usualWidget(channel)
      return [
        {
          id: 'M04',
          severity: 'warning',
          title: trouble[0],
          where: inCell(site, way.channel, 'widget', widget.id, widget.name, 'app'),
          what: trouble[1],
          why: trouble[2],
          fixes: [
            {
              label: `Change it to a ${better}`,
              change: (draft) => {
                draft.services.find((s) => s.id === way.service)!.widgets.find((w) => w.id === widget.id)!.kind = better
              },
            },
          ],
        },
      ]
    }),
  )

/** M05 no feedback on a way */
export const noFeedback: Check = (site) =>
  site.ways.flatMap((way): Finding[] => {
    if ((way.kind !== 'app' && way.kind !== 'hub') || way.feedback === 'reports') return []
    const channel = channelOf(site, way.channel)!
    return [
      {
        id: 'M05',
        severity: 'warning',
        title: 'State does not report back',
        where: inCell(site, way.channel, 'way', way.id, channel.name, way.kind),
        what:
          `${channel.name} by ${way.kind === 'app' ? 'app' : 'hub'}: ` +
          `${way.feedback === 'silent' ? 'the controller does not report back' : 'it is unknown whether the state comes back'}.`,
        why: 'After a press on the wall this screen shows the last command, not the state.',
        fixes: [
          {
            label: 'Turn reporting on',
            change: (draft) => {
              const target = draft.ways.find((w) => w.id === way.id)!
              if ('feedback' in target) target.feedback = 'reports'
            },
          },
        ],
      },
    ]
  })

/** M06 default that switches on at first connect */
export const defaultSwitchesOn: Check = (site) =>
  appPaths(site).flatMap(({ way, point }): Finding[] => {
    const channel = channelOf(site, way.channel)!
    const controller = site.controllers.find((c) => c.id === channel.controller)!
    const serviceSpeaks = controller.outage === 'service' || powerUpOf(channel).policy === 'service'
    if (!serviceSpeaks || point.default === point.min) return []
    return [
      {
        id: 'M06',
        severity: 'warning',
        title: 'Default turns it on',
        where: inCell(site, way.channel, 'point', point.id, point.name, 'app'),
        what:
          `vp${point.vp} has the default ${point.default}, and the service's value is applied at connect ` +
          `(${controller.outage === 'service' ? 'the service wins after an outage' : 'power-up takes the service’s value'}).`,
        why: `${channel.name} turns on when the board first connects.`,
        fixes: [
          {
            label: `Set default: ${point.min}`,
            change: (draft) => {
              pointIn(draft, way.service, point.id).default = point.min
            },
          },
        ],
      },
    ]
  })

/** M07 point not writable or readable as used */
export const pointAccess: Check = (site) =>
  appPaths(site).flatMap(({ way, point }): Finding[] => {
    const steering = widgetsOf(site, way.service, point.id).some(
      (widget) => widget.kind !== 'value' && widget.kind !== 'gauge',
    )
    const trouble =
      steering && point.access === 'read'
        ? 'its widget writes, the point is read-only'
        : way.feedback === 'reports' && point.access === 'write'
          ? 'the state is reported to it, the point is write-only'
          : null
    if (!trouble) return []
    return [
      {
        id: 'M07',
        severity: 'error',
        title: 'Wrong point access',
        where: inCell(site, way.channel, 'point', point.id, point.name, 'app'),
        what: `vp${point.vp}: ${trouble}.`,
        why: 'The service refuses it without an error.',
        fixes: [
          {
            label: 'Set access: read and write',
            change: (draft) => {
              pointIn(draft, way.service, point.id).access = 'read-write'
            },
          },
        ],
      },
    ]
  })

/** M11 channel without any way in */
export const noWayIn: Check = (site) =>
  site.channels
    .filter(
      (channel) => waysTo(site, channel.id).length === 0 && !site.rules.some((rule) => rule.channel === channel.id),
    )
    .map((channel) => ({
      id: 'M11',
      severity: 'error',
      title: 'No way in',
      where: {
        ...channelPlace(channel),
        step: 'ways',
        column: 'wall',
      },
      what: `${channel.name} has no way in: nothing can turn it on.`,
      why: 'Its relay would be unused.',
      fixes: [{ label: switchWords(site, channel), change: (draft) => giveSwitch(draft, channel.id) }],
    }))

/** A switch of a channel's controller that works nothing yet. */
const spareSwitch = (site: Site, channel: Channel): Input | undefined =>
  inputsOn(site, channel.controller).find((input) => input.kind !== 'contact' && !isUsed(site, input))

export const switchWords = (site: Site, channel: Channel): string => {
  const spare = spareSwitch(site, channel)
  return spare ? `Use ${spare.name}, which is not used yet` : 'Add a wall switch'
}

export function giveSwitch(draft: Site, channelId: string): void {
  const channel = draft.channels.find((c) => c.id === channelId)!
  const controller = draft.controllers.find((c) => c.id === channel.controller)!
  addWallWay(draft, channel, spareSwitch(draft, channel) ?? addSwitchFor(draft, channel, 'momentary', controller))
}

/** A name that no channel has: with its room, or a number. */
function otherName(site: Site, { name, room }: Channel): string {
  const taken = new Set(site.channels.map((one) => one.name.trim().toLowerCase()))
  const tries = [
    ...(room ? [`${name}, ${roomOf(site, room)?.name ?? room}`] : []),
    ...Array.from({ length: site.channels.length }, (_, i) => `${name} ${i + 2}`),
  ]
  return tries.find((one) => one.length <= LONGEST_NAME && !taken.has(one.toLowerCase())) ?? name
}

/** M18 two channels of one name */
export const sameName: Check = (site) => {
  const first = new Map<string, Channel>()
  return site.channels.flatMap((channel): Finding[] => {
    const key = channel.name.trim().toLowerCase()
    const other = first.get(key)
    if (!other) {
      first.set(key, channel)
      return []
    }
    const name = otherName(site, channel)
    return [
      {
        id: 'M18',
        severity: 'warning',
        title: 'Channel name used twice',
        where: { ...channelPlace(channel), step: 'ways', column: 'wall' },
        what: `Two channels are called ${other.name}: ${other.id} and ${channel.id}.`,
        why: 'Sheets, labels and screens use names: the two cannot be told apart.',
        fixes: [
          {
            label: `Rename to “${name}”`,
            change: (draft) => {
              draft.channels.find((c) => c.id === channel.id)!.name = name
            },
          },
        ],
      },
    ]
  })
}

/**
 * Why a topic level cannot be used; null: it can. MQTT 3.1.1, 4.7.1: "+" and "#" are wildcards, never part of a topic
 * name; "/" would add a level.
 */
function topicTrouble(topic: string, other: string | undefined): string | null {
  if (!ID_PATTERN.test(topic)) return 'is not of a-z, 0-9 and -, at most 24'
  if (RESERVED_LEVELS.includes(topic)) return 'is a word of the topic scheme itself'
  return other ? `is already the topic of ${other}` : null
}

const useTopic = (hub: string, entity: string, topic: string) => (draft: Site) => {
  draft.hubs.find((h) => h.id === hub)!.entities.find((e) => e.id === entity)!.topic = topic
}

/** M12 topic or id not unique or not legal */
export const topicNotFit: Check = (site) => {
  const taken = new Map<string, string>()
  return site.hubs.flatMap((hub) =>
    hub.entities.flatMap((entity): Finding[] => {
      const channel = channelOf(site, entity.channel)
      if (!channel) return []
      const { controller, id } = channel
      const key = `${controller}/${entity.topic}`
      const other = taken.get(key)
      if (!other) taken.set(key, entity.name)
      const trouble = topicTrouble(entity.topic, other)
      if (!trouble) return []
      const shared = taken.has(`${controller}/${id}`) && channelsOn(site, controller).some((c) => c.id !== id)
      const fixed = shared ? `${id}-2`.slice(0, 24) : id
      return [
        {
          id: 'M12',
          severity: 'error',
          title: 'Invalid topic',
          where: inCell(site, id, 'entity', entity.id, entity.name, 'hub'),
          what: `The topic level "${entity.topic}" of ${entity.name} ${trouble}.`,
          why: 'Messages reach another channel, or none.',
          fixes: [{ label: `Use "${fixed}"`, change: useTopic(hub.id, entity.id, fixed) }],
        },
      ]
    }),
  )
}

/** M14 voice name that leads nowhere */
export const voiceLeadsNowhere: Check = (site) =>
  site.ways.flatMap((way): Finding[] => {
    if (way.kind !== 'voice') return []
    const through = site.ways.find((other) => other.id === way.through)
    if (through && through.channel === way.channel && (through.kind === 'app' || through.kind === 'hub')) return []
    if (reachesDirectly(site, way)) return []
    const carrier = site.ways.find(
      (other) => other.channel === way.channel && (other.kind === 'hub' || other.kind === 'app'),
    )
    return [
      {
        id: 'M14',
        severity: 'error',
        title: 'Voice name not connected',
        where: inCell(site, way.channel, 'way', way.id, way.name, 'voice'),
        what: `“${way.name}” ${through ? 'is connected to another channel' : 'has no point and no entity behind it'}.`,
        why: 'The voice service says “okay” and nothing happens.',
        fixes: carrier
          ? [
              {
                label: `Connect through ${carrier.kind === 'hub' ? 'the hub' : 'the app service'}`,
                change: (draft) => {
                  const target = draft.ways.find((w) => w.id === way.id)!
                  if (target.kind === 'voice') target.through = carrier.id
                },
              },
            ]
          : [],
      },
    ]
  })

/** M15 action that the kind of channel does not know */
export const actionNotKnown: Check = (site) =>
  site.ways.flatMap((way): Finding[] => {
    const channel = channelOf(site, way.channel)!
    const actions =
      way.kind === 'wall'
        ? way.bindings.map((b) => b.action)
        : way.kind === 'remote' || way.kind === 'link'
          ? [way.action]
          : []
    const wrong = actions.filter((action) => !understands(channel, action))
    if (wrong.length === 0) return []
    const column = columnOf(site, way)
    return [
      {
        id: 'M15',
        severity: 'error',
        title: 'Action has no effect',
        where: inCell(site, channel.id, 'way', way.id, channel.name, column),
        what:
          `${channel.name} is ${channel.kind}${kindOf(channel).position(channel)?.input === null ? ' without a position contact' : ''}; ` +
          `it has no action “${[...new Set(wrong)].join('”, “')}”.`,
        why: 'The command arrives and nothing happens.',
        fixes: [],
      },
    ]
  })

export const mappingChecks: readonly Check[] = [
  sameVirtualPin,
  rangesDiffer,
  inversion,
  widgetMode,
  noFeedback,
  defaultSwitchesOn,
  pointAccess,
  noWayIn,
  sameName,
  topicNotFit,
  voiceLeadsNowhere,
  actionNotKnown,
]
