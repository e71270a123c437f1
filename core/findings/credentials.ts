import { cleanPasted, credentialsNeeded, serviceKindIn, type CredentialNeed } from '../services'
import type { Check, Finding, Where } from './finding'

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
  return [
    ...owners.map((owner): Finding => {
      const own = absent.filter((need) => need.owner === owner && !need.shownOnce)
      return {
        id: 'C01',
        severity: 'note',
        title: own.length === 1 ? 'credential missing' : 'credentials missing',
        where: atNeed(own[0]!),
        what: `${owner}: ${own.map((need) => need.label).join('; ')} ${own.length === 1 ? 'is' : 'are'} not stored yet.`,
        why: 'The board starts and never connects.',
        fixes: [],
      }
    }),
    ...absent
      .filter((need) => need.shownOnce)
      .map((need): Finding => ({
        id: 'C04',
        severity: 'warning',
        title: 'shown once, not kept',
        where: atNeed(need),
        what: `${need.owner} shows its ${need.label} a single time, and it is not stored.`,
        why: 'Lost once, it must be made anew, and every board that has the old one is cut off.',
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
        title: 'host is not only a host',
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
        title: 'one token on two devices',
        where: atNeed(need),
        what: `${need.label} and ${other.label} hold the same value.`,
        why: 'The service takes both boards for one: they throw each other off, and one shows the other’s state.',
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
      title: 'open to everybody',
      where: { thing: 'service', id: service.id, name: service.name, step: 'ways', side: 'services' },
      what:
        'Anyone who knows its host reads and writes ' +
        `${service.name}${serviceKindIn(site, service.kind) ? ` (${serviceKindIn(site, service.kind)!.name})` : ''}.`,
      why: 'A stranger switches your lamps, and your doors.',
      fixes: [
        {
          label: 'I have closed the rules',
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
      title: 'PIN that everybody tries',
      where: atNeed(needs.get(stored.key)!),
      what: `${needs.get(stored.key)!.label} is one of the PINs that everybody tries first.`,
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
      title: 'board has the old one',
      where: atNeed(needs.get(stored.key)!),
      what: `${needs.get(stored.key)!.label} was changed after the board was flashed.`,
      why: 'The board still uses the old value: it will not connect.',
      fixes: [],
    }))
}

export const credentialChecks: readonly Check[] = [
  missing,
  hostNotClean,
  sharedToken,
  openRules,
  usualPin,
  newerThanFlash,
]
