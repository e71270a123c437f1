import { linkTable } from '../ways'
import { DAYS_OF_MONTH, modemQuota, quotasOf, serviceKindIn, voiceCount, type Quota } from '../services'
import {
  channelOf,
  controllerOf,
  serviceOf,
  type Controller,
  type Hub,
  type Limits,
  type Link,
  type Service,
  type Site,
} from '../site'
import { NO_RECORD, type Check, type Finding, type Where } from './finding'

const atService = (service: { id: string; name: string }, thing: 'service' | 'hub' = 'service'): Where => ({
  thing,
  id: service.id,
  name: service.name,
  step: 'ways',
  side: 'services',
})

const count = (number: number): string => number.toLocaleString('en')

const unknownKind = (service: Service): Finding => ({
  id: 'M08',
  severity: 'error',
  title: 'Unknown kind of service',
  where: atService(service),
  what: `There is no kind "${service.kind}".`,
  why: 'Its limits and set-up steps are unknown.',
  fixes: [],
})

/** What of a service's plan an edit would pass that was kept before, or pass further: said before it is made. */
export function limitsPassed(before: Site, after: Site): string[] {
  const said = new Set(planLimits(before, NO_RECORD).map(({ what }) => what))
  return planLimits(after, NO_RECORD)
    .map(({ what }) => what)
    .filter((what) => !said.has(what))
}

/** More of something than a plan allows; nothing where it has no limit, or keeps it. */
const tooMany = (
  service: Service,
  plan: string,
  what: string,
  used: number,
  limit: number | null,
  why: string,
): Finding[] =>
  limit === null || used <= limit
    ? []
    : [
        {
          id: 'M08',
          severity: 'error',
          title: `Too many ${what} for the plan`,
          where: atService(service),
          what: `${service.name} needs ${used} ${what}; the plan of a ${plan} allows ${limit}.`,
          why,
          fixes: [],
        },
      ]

function serviceLimits(site: Site, service: Service): Finding[] {
  const kind = serviceKindIn(site, service.kind)
  if (!kind) return [unknownKind(service)]
  const { limits } = kind
  const over = (what: string, used: number, limit: number | null, why: string) =>
    tooMany(service, kind.name, what, used, limit, why)
  if (kind.family === 'voice') {
    const why = 'Those above the limit are never found, without an error.'
    return over('devices', voiceCount(site, service.id), limits.devices, why)
  }
  const devices = [...new Set(service.points.map((point) => point.controller))]
  return [
    ...over('devices', devices.length, limits.devices, 'The last controllers never come online there.'),
    ...devices.flatMap((controller) => {
      const name = controllerOf(site, controller)?.name ?? controller
      const points = service.points.filter((point) => point.controller === controller)
      const widgets = service.widgets.filter((widget) => points.some((point) => point.id === widget.point))
      return [
        ...over(`points on ${name}`, points.length, limits.points, 'The template refuses the rest.'),
        ...over(`widgets for ${name}`, widgets.length, limits.widgets, 'The screen refuses the rest.'),
      ]
    }),
    ...longNames(service, limits.nameLength),
  ]
}

function hubLimits(site: Site, hub: Hub): Finding[] {
  const kind = serviceKindIn(site, hub.kind)
  const limit = kind?.limits.points ?? null
  if (!kind || limit === null) return []
  const homes = hub.entities.flatMap((entity) => channelOf(site, entity.channel)?.controller ?? [])
  return [...new Set(homes)].flatMap((controller): Finding[] => {
    const used = homes.filter((home) => home === controller).length
    if (used <= limit) return []
    return [
      {
        id: 'M08',
        severity: 'error',
        title: 'Too many entities for the plan',
        where: atService(hub, 'hub'),
        what: `${hub.name} would hold ${used} of ${controller}; a ${kind.name} allows ${limit} on one device.`,
        why: 'The rest never appears.',
        fixes: [],
      },
    ]
  })
}

/** M08 plan limits: devices, points, widgets, names */
export const planLimits: Check = (site) => [
  ...site.services.flatMap((service) => serviceLimits(site, service)),
  ...site.hubs.flatMap((hub) => hubLimits(site, hub)),
]

const cutNames = (service: string, limit: number) => (draft: Site) => {
  for (const point of draft.services.find((s) => s.id === service)!.points)
    point.name = point.name.slice(0, limit).trim()
}

function longNames(service: Service, limit: number | null): Finding[] {
  if (limit === null) return []
  const long = service.points.filter((point) => point.name.length > limit)
  if (long.length === 0) return []
  return [
    {
      id: 'M08',
      severity: 'warning',
      title: 'Names too long for the service',
      where: atService(service),
      what:
        `${long.map((point) => `“${point.name}”`).join(', ')} ${long.length === 1 ? 'has' : 'have'} more ` +
        `than ${limit} characters.`,
      why: 'They are cut, and two may become equal.',
      fixes: [
        {
          label: 'Shorten them',
          change: cutNames(service.id, limit),
        },
      ],
    },
  ]
}

/** The three heaviest rows of a quota, with their share. */
const heaviest = (quota: Quota): string =>
  [...quota.rows]
    .sort((a, b) => b.share - a.share)
    .slice(0, 3)
    .map((row) => `${row.name} ${row.reason} ${Math.round(row.share * 100)} %`)
    .join(', ')

/** The allowances of a plan that a quota goes beyond, in words. */
function exceeded(quota: Quota, limits: Limits): string[] {
  const over = (used: number, limit: number | null, of: string): string[] =>
    limit !== null && used > limit ? [`${count(used)} ${of}, ${count(limit)} are allowed`] : []
  return [
    ...over(quota.perDay, limits.messagesDay, 'messages per day'),
    ...over(quota.perMonth, limits.messagesMonth, 'messages per month'),
    ...over(quota.bytesPerMonth, limits.bytesMonth, 'bytes per month'),
  ]
}

function serviceQuota(site: Site, quota: Quota): Finding[] {
  const service = serviceOf(site, quota.service)
  const limits = service && serviceKindIn(site, service.kind)?.limits
  const over = limits ? exceeded(quota, limits) : []
  if (!service || over.length === 0) return []
  return [
    {
      id: 'M09',
      severity: 'error',
      title: 'Message quota exceeded',
      where: atService(service),
      what:
        `At ${site.day.changes} changes per channel per day ${service.name} carries ${over.join('; ')}. Most of ` +
        `it: ${heaviest(quota)}.`,
      why: 'After that, nothing is delivered until the next day or month.',
      fixes: slower(service),
    },
  ]
}

function dataOverModem(site: Site, controller: Controller): Finding[] {
  const quota = modemQuota(site, controller)
  if (!quota || quota.bytesPerMonth <= MODEM_BYTES) return []
  const { id, name } = controller
  return [
    {
      id: 'M09',
      severity: 'warning',
      title: 'Modem data volume high',
      where: { thing: 'controller', id, name, controller: id, step: 'ways', side: 'services' },
      what:
        `${name} sends ${(quota.bytesPerMonth / 1e6).toFixed(1)} MB per month (${DAYS_OF_MONTH} ` +
        `days) over its modem. Most of it: ${heaviest(quota)}.`,
      why: 'Small prepaid plans hold 30 to 50 MB.',
      fixes: [],
    },
  ]
}

/** M09 message or data quota (per day and month, worked out) */
export const messageQuota: Check = (site) => [
  ...quotasOf(site).flatMap((quota) => serviceQuota(site, quota)),
  ...site.controllers.flatMap((controller) => dataOverModem(site, controller)),
]

/** A small prepaid plan, bytes a month (common practice). */
const MODEM_BYTES = 50_000_000

/** Slows periodic points down to once in five minutes, where that helps. */
function slower(service: Service): Finding['fixes'] {
  const periodic = service.points.filter((point) => point.update.policy === 'every' && point.update.everyMs < 300_000)
  if (periodic.length === 0) return []
  return [
    {
      label: 'Send readings every 5 min',
      change: (draft) => {
        for (const point of draft.services.find((s) => s.id === service.id)!.points)
          if (point.update.policy === 'every' && point.update.everyMs < 300_000) point.update.everyMs = 300_000
      },
    },
  ]
}

/** M10 update period shorter than the service allows */
export const updateTooFast: Check = (site) =>
  quotasOf(site).flatMap((quota): Finding[] => {
    const service = site.services.find((candidate) => candidate.id === quota.service)
    const least = service && serviceKindIn(site, service.kind)?.limits.updateMs
    if (!service || !least || quota.fastestMs === null || quota.fastestMs >= least) return []
    return [
      {
        id: 'M10',
        severity: 'warning',
        title: 'Updates faster than allowed',
        where: atService(service),
        what:
          `A point of ${service.name} may change every ${quota.fastestMs} ms; the service takes one value every ` +
          `${least} ms.`,
        why: 'Values in between are dropped, often the last one.',
        fixes: [
          {
            label: `Set minimum update interval: ${least} ms`,
            change: (draft) => {
              const own = draft.services.find((s) => s.id === service.id)!
              const controllers = new Set(own.points.map((point) => point.controller as string))
              for (const controller of draft.controllers)
                if (controllers.has(controller.id)) controller.minReportMs = Math.max(controller.minReportMs, least)
              for (const point of own.points)
                if (point.update.policy === 'every') point.update.everyMs = Math.max(point.update.everyMs, least)
            },
          },
        ],
      },
    ]
  })

const endsOf = (link: Link): string | null =>
  link.other === null ? null : `${link.kind} ${[link.controller, link.other].sort().join('/')}`

/** The same two boards joined once more, by a link that is written after this one. */
function twinOf(site: Site, link: Link): Link | undefined {
  const ends = endsOf(link)
  const later = site.links.slice(site.links.indexOf(link) + 1)
  return ends === null ? undefined : later.find((other) => endsOf(other) === ends)
}

const sameSpeed = (from: Link, to: Link) => (draft: Site) => {
  draft.links.find((l) => l.id === to.id)!.baud = from.baud
}

/** M13 two boards of a pair exchange different tables or speeds: the same link written twice */
export const pairDiffers: Check = (site) =>
  site.links.flatMap((link): Finding[] => {
    const twin = twinOf(site, link)
    if (!twin) return []
    const differences = [
      ...(twin.baud === link.baud ? [] : [`${link.baud} baud at one end, ${twin.baud} at the other`]),
      ...tableDifference(site, link.id, twin.id),
    ]
    if (differences.length === 0) return []
    const { id, name, controller } = link
    return [
      {
        id: 'M13',
        severity: 'error',
        title: 'Link ends differ',
        where: { thing: 'link', id, name, controller, step: 'ways', side: 'links' },
        what: `${name} and ${twin.name} join the same two boards: ${differences.join('; ')}.`,
        why: 'One end sends what the other does not understand.',
        fixes: [{ label: `Use the speed of ${name} at both ends`, change: sameSpeed(link, twin) }],
      },
    ]
  })

function tableDifference(site: Site, a: string, b: string): string[] {
  const rows = (id: string): Map<string, string> =>
    new Map(
      linkTable(
        site,
        site.links.find((link) => link.id === id)!,
      ).map((row) => [row.char, `${row.target} ${row.action}`]),
    )
  const first = rows(a)
  return [...rows(b)].flatMap(([char, meaning]) => {
    const other = first.get(char)
    return other !== undefined && other !== meaning ? [`“${char}” means ${other} at one, ${meaning} at the other`] : []
  })
}

/** M16 one character, two meanings on one controller */
export const charTwice: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const seen = new Map<string, string>()
    return site.links
      .filter((link) => link.controller === controller.id)
      .flatMap((link) =>
        linkTable(site, link).flatMap((row): Finding[] => {
          const before = seen.get(row.char)
          const meaning = `${row.target} ${row.action}`
          if (before === undefined) seen.set(row.char, meaning)
          if (before === undefined || before === meaning) return []
          return [
            {
              id: 'M16',
              severity: 'error',
              title: 'Character used twice',
              where: {
                thing: 'link',
                id: link.id,
                name: link.name,
                controller: controller.id,
                step: 'ways',
                side: 'links',
              },
              what: `“${row.char}” means ${before} and ${meaning} on ${controller.name}.`,
              why: 'Both happen at once.',
              fixes: [],
            },
          ]
        }),
      )
  })

export const limitChecks: readonly Check[] = [planLimits, messageQuota, updateTooFast, pairDiffers, charTwice]
