import {
  cleanPasted,
  credentialsNeeded,
  holderOf,
  holdersOf,
  isInHouse,
  keepServiceKind,
  serviceKindIn,
  wiredHolders,
  wireOf,
  type CredentialNeed,
} from '../services'
import { linksWanted, MOST_LINKS } from '../image'
import { hasNetwork, secretsRead, wireTrouble } from '../wires'
import { channelOf, kindOf, plainCopy, type Site, type Wire } from '../site'
import { channelPlace, type Check, type Finding, type Where } from './finding'

const atNeed = (need: CredentialNeed): Where => ({
  thing: 'credential',
  id: need.key,
  name: `${need.owner}: ${need.label}`,
  step: 'ways',
  side: 'credentials',
})

/** C01 missing, one for each owner · C04 shown-once secret not stored */
export const missing: Check = (site, record) => {
  if (record.credentials === null) return []
  const stored = new Set(record.credentials.map((one) => one.key))
  const absent = credentialsNeeded(site).filter((need) => !stored.has(need.key))
  const owners = [...new Set(absent.filter((need) => !need.shownOnce).map((need) => need.owner))]
  const read = readSomewhere(site)
  return [
    ...owners.map((owner): Finding => {
      const own = absent.filter((need) => need.owner === owner && !need.shownOnce)
      return {
        id: 'C01',
        severity: 'note',
        title: own.length === 1 ? 'Credential missing' : 'Credentials missing',
        where: atNeed(own[0]!),
        what: `${owner}: ${own.map((need) => need.label).join('; ')} ${own.length === 1 ? 'is' : 'are'} not stored yet.`,
        why: own.some(({ key }) => read.has(key))
          ? 'The board starts and never connects.'
          : 'It is asked for when this is set up; no program reads it.',
        fixes: [],
      }
    }),
    ...absent
      .filter((need) => need.shownOnce)
      .map((need): Finding => ({
        id: 'C04',
        severity: 'warning',
        title: 'One-time secret not stored',
        where: atNeed(need),
        what: `${need.owner} shows its ${need.label} one time only, and it is not stored.`,
        why: 'If it is lost, a new one must be made, and every board with the old one is disconnected.',
        fixes: [],
      })),
  ]
}

/** C02 host with scheme, path or trailing slash */
export const hostNotClean: Check = (site) =>
  [
    ...site.services.map((service) => ({ thing: 'service' as const, list: 'services' as const, item: service })),
    ...site.hubs.map((hub) => ({ thing: 'hub' as const, list: 'hubs' as const, item: hub })),
  ].flatMap(({ thing, list, item }): Finding[] => {
    const { value, changes } = cleanPasted('host', item.host)
    if (item.host === '' || changes.length === 0) return []
    return [
      {
        id: 'C02',
        severity: 'error',
        title: 'Host contains a scheme or path',
        where: { thing, id: item.id, name: item.name, step: 'ways', side: 'services' },
        what: `${item.name}: “${item.host}” (${changes.join(', ')}).`,
        why: 'The board looks that whole text up as a name and finds nothing.',
        fixes: [
          {
            label: `Use “${value}”`,
            change: (draft) => {
              draft[list].find((one) => one.id === item.id)!.host = value
            },
          },
        ],
      },
    ]
  })

/** C03 one token on two devices */
export const sharedToken: Check = (site, record) => {
  const needs = new Map(credentialsNeeded(site).map((need) => [need.key, need]))
  const first = new Map<string, CredentialNeed>()
  return (record.credentials ?? []).flatMap((stored): Finding[] => {
    const need = needs.get(stored.key)
    if (!need || !need.secret || (need.shape !== 'token' && need.shape !== 'key')) return []
    const other = first.get(stored.sameAs)
    if (!other) {
      first.set(stored.sameAs, need)
      return []
    }
    return [
      {
        id: 'C03',
        severity: 'error',
        title: 'Token used on two devices',
        where: atNeed(need),
        what: `${need.label} and ${other.label} hold the same value.`,
        why: 'The service treats both boards as one: they disconnect each other and show each other’s state.',
        fixes: [],
      },
    ]
  })
}

/** C05 open database rules */
export const openRules: Check = (site) =>
  site.services
    .filter((service) => service.rulesOpen === true)
    .map((service) => ({
      id: 'C05',
      severity: 'danger',
      title: 'Store is open to everyone',
      where: { thing: 'service', id: service.id, name: service.name, step: 'ways', side: 'services' },
      what:
        'Anyone who knows its host can read and write ' +
        `${service.name}${serviceKindIn(site, service.kind) ? ` (${serviceKindIn(site, service.kind)!.name})` : ''}.`,
      why: 'Strangers can switch your lamps and your doors.',
      fixes: [
        {
          label: 'Set: access rules closed',
          change: (draft) => {
            draft.services.find((s) => s.id === service.id)!.rulesOpen = false
          },
        },
      ],
    }))

/** C06 pairing PIN left at a default */
export const usualPin: Check = (site, record) => {
  const needs = new Map(credentialsNeeded(site).map((need) => [need.key, need]))
  return (record.credentials ?? [])
    .filter((stored) => stored.usualPin && needs.has(stored.key))
    .map((stored) => ({
      id: 'C06',
      severity: 'warning',
      title: 'Default PIN',
      where: atNeed(needs.get(stored.key)!),
      what: `${needs.get(stored.key)!.label} is a default PIN.`,
      why: 'Anyone within reach can pair the board while it waits.',
      fixes: [],
    }))
}

/** C07 credential newer than the last flash */
export const newerThanFlash: Check = (site, record) => {
  const needs = new Map(credentialsNeeded(site).map((need) => [need.key, need]))
  return (record.credentials ?? [])
    .filter((stored) => stored.newerThanFlash && needs.has(stored.key))
    .map((stored) => ({
      id: 'C07',
      severity: 'warning',
      title: 'Board has an old credential',
      where: atNeed(needs.get(stored.key)!),
      what: `${needs.get(stored.key)!.label} was changed after the board was flashed.`,
      why: 'The board still uses the old value and will not connect.',
      fixes: [],
    }))
}

/** Secrets that some program of the site reads. */
const readSomewhere = (site: Site): ReadonlySet<string> =>
  new Set(site.controllers.flatMap((controller) => [...secretsRead(site, controller.id).keys()]))

/** C08 credential that no program reads, one for each owner */
export const readByNothing: Check = (site) => {
  const read = readSomewhere(site)
  const networked = (need: CredentialNeed): boolean =>
    site.controllers.some((controller) => need.controllers.includes(controller.id) && hasNetwork(site, controller))
  const unread = credentialsNeeded(site).filter(
    // what goes into no board is not for a program; what a person is asked for at pairing stands on a label
    // without a network nothing is read, which another finding says
    (need) => networked(need) && !need.made && !need.pairs && !read.has(need.key),
  )
  return [...new Set(unread.map(({ owner }) => owner))].map((owner): Finding => {
    const own = unread.filter((need) => need.owner === owner)
    return {
      id: 'C08',
      severity: 'note',
      title: 'Credential not read by the firmware',
      where: atNeed(own[0]!),
      what: `${owner}: ${own.map((need) => need.label).join('; ')} ${own.length === 1 ? 'is' : 'are'} in secrets.h, and no program reads ${own.length === 1 ? 'it' : 'them'}.`,
      why: 'The build does not reach this service with it until the wire of its kind is entered.',
      fixes: [],
    }
  })
}

const overTls = (wire: Exclude<Wire, { transport: 'own' }>): Wire =>
  wire.transport === 'hook' ? { ...wire, call: wire.call && { ...wire.call, tls: true } } : { ...wire, tls: true }

/** C09 credentials that leave the house unencrypted */
export const inTheClear: Check = (site, record) =>
  wiredHolders(site).flatMap((service): Finding[] => {
    const wire = wireOf(site, service)
    const place = wire?.transport === 'hook' ? wire.call : wire
    if (!wire || !place || place.tls) return []
    // an address that was typed as a credential is known to the store alone
    const typed = (record.credentials ?? []).some(
      ({ key, outside }) => key === `${service.id}/host` && outside === true,
    )
    const leaves = place.host === '{credential:host}' ? typed : service.host !== '' && !isInHouse(service.host)
    if (!leaves) return []
    return [
      {
        id: 'C09',
        severity: 'warning',
        title: 'Credentials sent unencrypted',
        where: { thing: 'service', id: service.id, name: service.name, step: 'ways', side: 'services' },
        what: `${service.name}${service.host === '' ? '' : ` at ${service.host}`} is reached without TLS.`,
        why: 'Whoever reads along on the way has the key, and works your lamps and doors with it.',
        fixes: [
          {
            label: 'Set: TLS on',
            change: (draft) => {
              const kind = serviceKindIn(draft, service.kind)!
              keepServiceKind(draft, { ...plainCopy(kind), wire: overTls(wire) })
            },
          },
        ],
      },
    ]
  })

/** C10 a wire with a place that is not known */
export const wireNotFilled: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const trouble = wireTrouble(site, controller.id)
    return trouble === null
      ? []
      : [
          {
            id: 'C10',
            severity: 'error',
            title: 'Wire cannot be filled in',
            where: { thing: 'controller', id: controller.id, name: controller.name, step: 'ways', side: 'services' },
            what: `${trouble}.`,
            why: 'Without it the firmware cannot be built.',
            fixes: [],
          },
        ]
  })

/** C11 more connections than a controller keeps */
export const tooManyLinks: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const wanted = linksWanted(site, controller)
    if (controller.link === 'none' || wanted.length <= MOST_LINKS) return []
    const nameOf = (id: string): string => holderOf(site, id)?.service.name ?? 'the broker of the house'
    return [
      {
        id: 'C11',
        severity: 'error',
        title: 'Too many connections',
        where: { thing: 'controller', id: controller.id, name: controller.name, step: 'ways', side: 'services' },
        what: `${controller.name} would need ${wanted.length} connections: ${wanted.map(({ id }) => nameOf(id)).join(', ')}.`,
        why: `A controller has up to ${MOST_LINKS}; the others are not reached.`,
        fixes: [],
      },
    ]
  })

/** C12 a pulse that a service is to set by a value that is only read */
export const pulseOnlyRead: Check = (site) =>
  holdersOf(site).flatMap(({ service, pointOf }): Finding[] => {
    const wire = wireOf(site, service)
    if (wire?.transport !== 'http') return []
    return site.ways.flatMap((way): Finding[] => {
      const channel = pointOf.has(way.id) ? channelOf(site, way.channel) : undefined
      if (!channel || kindOf(channel).lasting) return []
      return [
        {
          id: 'C12',
          severity: 'warning',
          title: 'Pulse cannot be set by this service',
          where: { ...channelPlace(channel), step: 'ways', column: 'app' },
          what:
            `${service.name} is read every ${(wire.read?.everyMs ?? 0) / 1_000} s: ${channel.name} reports to it, ` +
            'and is never set by it.',
          why: 'A value that is read is a state: each restart would read it again, and open the door again.',
          fixes: [],
        },
      ]
    })
  })

export const credentialChecks: readonly Check[] = [
  missing,
  hostNotClean,
  sharedToken,
  openRules,
  usualPin,
  newerThanFlash,
  readByNothing,
  inTheClear,
  wireNotFilled,
  tooManyLinks,
  pulseOnlyRead,
]
