import { HOURS_OF_YEAR, rateBy } from '../faults'
import { powerUpOf, waysTo, type PulsedChannel, type Site } from '../site'
import { channelPlace, offAfterPowerCut, type Check, type Finding, type Where } from './finding'

/** Doors, gates and locks. Common practice of the trade; local codes and licensed people decide. */

const doors = (site: Site): PulsedChannel[] => site.channels.filter((channel) => channel.kind === 'pulsed')

const whereOf = (channel: PulsedChannel, more: Partial<Where> = {}): Where => ({
  ...channelPlace(channel),
  role: `out:${channel.id}`,
  step: 'bench',
  ...more,
})

const changeDoor =
  (channel: PulsedChannel, change: (door: NonNullable<PulsedChannel['door']>) => void) =>
  (draft: Site): void => {
    const target = draft.channels.find((candidate) => candidate.id === channel.id)
    if (target?.kind === 'pulsed' && target.door) change(target.door)
  }

type Lock = NonNullable<PulsedChannel['door']>['lock']
const makeLock = (channel: PulsedChannel, lock: Lock) =>
  changeDoor(channel, (door) => {
    door.lock = lock
  })

const opensInPowerCut = (channel: PulsedChannel): Finding => ({
  id: 'H01',
  severity: 'danger',
  title: 'Unlocks in a power cut',
  where: whereOf(channel),
  what: `${channel.name} has a fail-safe strike on an outside door.`,
  why: 'A fail-safe strike unlocks without power: a blown fuse leaves the house open.',
  fixes: [{ label: 'Set strike: fail-secure', change: makeLock(channel, 'fail-secure') }],
})
const lockedInPowerCut = (channel: PulsedChannel): Finding => ({
  id: 'H01',
  severity: 'danger',
  title: 'Locked in a power cut',
  where: whereOf(channel),
  what: `${channel.name} has a fail-secure strike on an escape door.`,
  why:
    'It stays locked when the power fails and people must get out. Local code decides; a ' +
    'mechanical way out is needed in any case.',
  fixes: [{ label: 'Set strike: fail-safe', change: makeLock(channel, 'fail-safe') }],
})

/** H01 strike that opens on power loss on an outside door, and the reverse on an escape door */
export const strikeAgainstDoor: Check = (site) =>
  doors(site).flatMap((channel): Finding[] => {
    const { lock, place } = channel.door ?? {}
    if (lock === 'fail-safe' && place === 'outside') return [opensInPowerCut(channel)]
    if (lock === 'fail-secure' && place === 'escape') return [lockedInPowerCut(channel)]
    return []
  })

/** H02 retained or repeated command on a pulsed channel: a service that resends what it holds */
export const pulseRepeated: Check = (site) =>
  doors(site).flatMap((channel): Finding[] =>
    waysTo(site, channel.id).flatMap((way): Finding[] => {
      if (way.kind !== 'app') return []
      const service = site.services.find((candidate) => candidate.id === way.service)!
      const point = service.points.find((candidate) => candidate.id === way.point)!
      const latching = service.widgets.filter(
        (widget) => widget.point === point.id && ['switch', 'slider', 'stepper', 'mode'].includes(widget.kind),
      )
      if (point.default === point.min && latching.length === 0) return []
      return [
        {
          id: 'H02',
          severity: 'danger',
          title: 'Pulse may repeat',
          where: whereOf(channel, { step: 'ways', column: 'app', thing: 'point', id: point.id, name: point.name }),
          what:
            point.default !== point.min
              ? `vp${point.vp} of ${channel.name} has the default ${point.default}: a service that sends it ` +
                'at a reconnection triggers a pulse.'
              : `${latching[0]!.name} keeps ${point.max} after a pulse: a service that resends its value ` +
                'triggers another.',
          why:
            'A door could open again with nobody there. The firmware ignores held values for doors; another client ' +
            'of the same point may not.',
          fixes: [
            {
              label: `Set default ${point.min} and a push widget`,
              change: (draft) => {
                const own = draft.services.find((s) => s.id === service.id)!
                own.points.find((p) => p.id === point.id)!.default = point.min
                for (const widget of own.widgets)
                  if (widget.point === point.id && latching.some((one) => one.id === widget.id)) widget.kind = 'push'
              },
            },
          ],
        },
      ]
    }),
  )

/** Sources that act with nobody beside the door. */
const REMOTE_WAYS = ['app', 'hub', 'voice'] as const

/** H03 door operator automated without position sensor */
export const noPositionSensor: Check = (site) =>
  doors(site).flatMap((channel): Finding[] => {
    const from = waysTo(site, channel.id)
      .filter((way) => (REMOTE_WAYS as readonly string[]).includes(way.kind))
      .map((way) => way.kind)
    if (!channel.door || channel.door.lock !== 'none' || channel.contact !== null || from.length === 0) return []
    return [
      {
        id: 'H03',
        severity: 'error',
        title: 'No position contact',
        where: whereOf(channel),
        what: `${channel.name} moves a door by ${[...new Set(from)].join(' and ')} and has no position contact.`,
        why: 'The same pulse opens and closes: from afar it is unknown which it did.',
        fixes: [],
      },
    ]
  })

/** H04 unattended closing without warning device */
export const closesUnseen: Check = (site) =>
  site.channels.flatMap((channel): Finding[] => {
    if (channel.kind !== 'pulsed' || !channel.door?.closesUnattended || channel.door.warningDevice) return []
    return [
      {
        id: 'H04',
        severity: 'danger',
        title: 'Closes unattended without warning',
        where: whereOf(channel),
        what: `${channel.name} may close unattended and has no warning light or sounder.`,
        why:
          'Someone may stand under it. Obstruction detection of the operator is needed in any case; ' +
          'local code decides.',
        fixes: [
          {
            label: 'Set: warning device fitted',
            change: changeDoor(channel, (door) => {
              door.warningDevice = true
            }),
          },
        ],
      },
    ]
  })

/** H05 lock by voice without a spoken PIN */
export const voiceWithoutPin: Check = (site) =>
  doors(site).flatMap((channel): Finding[] =>
    waysTo(site, channel.id).flatMap((way): Finding[] => {
      if (
        way.kind !== 'voice' ||
        way.pin ||
        !channel.door ||
        (channel.door.lock === 'none' && channel.door.place === 'inside')
      )
        return []
      return [
        {
          id: 'H05',
          severity: 'danger',
          title: 'Voice opens without a PIN',
          where: whereOf(channel, { step: 'ways', column: 'voice', thing: 'way', id: way.id, name: way.name }),
          what: `“${way.name}” works ${channel.name} by voice without a spoken PIN.`,
          why: 'A voice through the window, or from a television, opens the door.',
          fixes: [
            {
              label: 'Ask for a PIN',
              change: (draft) => {
                const target = draft.ways.find((w) => w.id === way.id)
                if (target?.kind === 'voice') target.pin = true
              },
            },
          ],
        },
      ]
    }),
  )

/** H07 what a door is used for is not said */
export const doorNotSaid: Check = (site) =>
  doors(site)
    .filter((channel) => channel.door === null)
    .map((channel) => ({
      id: 'H07',
      severity: 'note',
      title: 'Lock or door type missing',
      where: whereOf(channel),
      what: `It is not entered whether ${channel.name} works a lock or a door, and where.`,
      why: 'Without it the dangers cannot be checked.',
      fixes: [
        {
          label: 'Set: inside gate or door, no lock',
          change: (draft) => {
            const target = draft.channels.find((c) => c.id === channel.id)
            if (target?.kind === 'pulsed')
              target.door = { lock: 'none', place: 'inside', closesUnattended: false, warningDevice: false }
          },
        },
      ],
    }))

const powerCutsPerYear = (site: Site): number => HOURS_OF_YEAR / rateBy(site, 'mains').betweenHours

/** H08 heater that comes back by itself after a power cut */
export const heaterComesBack: Check = (site) =>
  site.channels.flatMap((channel): Finding[] => {
    const load = site.loads.find((candidate) => candidate.id === channel.load)
    const { policy } = powerUpOf(channel)
    if (load?.type !== 'heater' || !['on', 'last', 'timetable'].includes(policy)) return []
    return [
      {
        id: 'H08',
        severity: 'warning',
        title: 'Heater returns after a power cut',
        where: {
          ...channelPlace(channel),
          step: 'bench',
        },
        what:
          `${channel.name} heats, and its power-up policy is “${policy}”. The mains fails about ` +
          `${powerCutsPerYear(site).toFixed(0)} times per year (usual failure rates).`,
        why: 'After a power cut it heats unattended.',
        fixes: [offAfterPowerCut(channel)],
      },
    ]
  })

export const safetyChecks: readonly Check[] = [
  strikeAgainstDoor,
  pulseRepeated,
  noPositionSensor,
  closesUnseen,
  voiceWithoutPin,
  doorNotSaid,
  heaterComesBack,
]
