import type { Controller, Hub, Secret, Service, Site } from '../site'
import { serviceKindIn } from './serviceKinds'

/**
 * One credential that the site needs: who wants it, for what. Its value is kept by the server, encrypted, and never
 * here.
 */
export interface CredentialNeed {
  /** unique in the site: "wifi/password", "app/board-key/throwing" */
  readonly key: string
  readonly label: string
  readonly owner: string
  /** the controllers into whose secrets file it goes */
  readonly controllers: readonly string[]
  readonly shape: Secret['shape']
  readonly secret: boolean
  readonly shownOnce: boolean
  /** made by the server of this site, and typed by nobody */
  readonly made: boolean
  /** somebody who pairs the controller is asked for it: it stands on its label */
  readonly pairs: boolean
  /** why it is needed, as a person reads it */
  readonly usedIn: string
}

type Need = Pick<CredentialNeed, 'key' | 'label' | 'owner' | 'controllers' | 'shape' | 'usedIn'>
const need = (what: Need, more: Partial<CredentialNeed> = {}): CredentialNeed => ({
  ...what,
  secret: true,
  shownOnce: false,
  made: false,
  pairs: false,
  ...more,
})

/** The name of the network and its password, for every controller that joins it. */
function networkNeeds(site: Site): CredentialNeed[] {
  const controllers = site.controllers.filter(({ link }) => link === 'wifi').map(({ id }) => id as string)
  const usedIn = 'secrets file of every Wi-Fi controller'
  const of = { owner: 'Network', controllers, usedIn }
  if (controllers.length === 0) return []
  return [
    need({ key: 'wifi/name', label: 'Wi-Fi name', shape: 'text', ...of }, { secret: false }),
    need({ key: 'wifi/password', label: 'Wi-Fi password', shape: 'password', ...of }),
  ]
}

const modemNeeds = ({ id, name }: Controller): CredentialNeed[] => {
  const of = { owner: `${name} modem`, controllers: [id], usedIn: `secrets file of ${name}` }
  return [
    need({ key: `modem/user/${id}`, label: 'Network user', shape: 'text', ...of }, { secret: false }),
    need({ key: `modem/password/${id}`, label: 'Network password', shape: 'password', ...of }),
  ]
}

/** What a credential of a service's kind is, for the service as a whole or for each controller that speaks to it. */
function secretNeeds(site: Site, holder: Service | Hub, secret: Secret): CredentialNeed[] {
  const nameOf = (id: string): string => site.controllers.find((controller) => controller.id === id)?.name ?? id
  const controllers = controllersOf(site, holder.id)
  const { shape, shownOnce } = secret
  const pairs = kindPairs(site, holder.kind) && secret.per === 'device'
  const more = { secret: secret.secret, shownOnce, made: madeHere(holder), pairs }
  const of = { owner: holder.name, shape }
  if (secret.per === 'device')
    return controllers.map((controller) =>
      need(
        {
          ...of,
          key: `${holder.id}/${secret.id}/${controller}`,
          label: `${secret.label}: ${nameOf(controller)}`,
          controllers: [controller],
          usedIn: `secrets file of ${nameOf(controller)}`,
        },
        more,
      ),
    )
  const usedIn = controllers.length
    ? `secrets file of ${controllers.map(nameOf).join(', ')}`
    : 'the service’s own settings'
  return [need({ ...of, key: `${holder.id}/${secret.id}`, label: secret.label, controllers, usedIn }, more)]
}

/** A kind that is paired at the board asks for a PIN or a code there: a board's credentials stand on its label. */
const kindPairs = (site: Site, kind: string): boolean =>
  serviceKindIn(site, kind)?.secrets.some(({ shape }) => shape === 'pin') ?? false

/** What a nearby module asks of the phone that pairs with it; it is set in the module, and in no program. */
const nearbyNeeds = (site: Site): CredentialNeed[] =>
  site.links
    .filter(({ kind }) => kind === 'nearby')
    .map(({ id, name }) =>
      need({
        key: `nearby/pin/${id}`,
        label: `PIN: ${name}`,
        owner: name,
        controllers: [],
        shape: 'pin',
        usedIn: 'module itself, and in the phone that pairs with it',
      }),
    )

/** The broker of the house is opened by users that are made here, one for each controller and one for the hub. */
const madeHere = (holder: Service | Hub): boolean => holder.kind === 'broker'

/** How a hub itself opens the broker; it goes into no controller. */
function hubNeeds(hub: Hub): CredentialNeed[] {
  if (!madeHere(hub)) return []
  const of = { owner: hub.name, controllers: [], usedIn: 'secrets file of the hub' }
  return [
    need({ key: `${hub.id}/user`, label: 'User of the hub', shape: 'text', ...of }, { secret: false, made: true }),
    need({ key: `${hub.id}/password`, label: 'Password of the hub', shape: 'password', ...of }, { made: true }),
  ]
}

/** Everything that a site must be told once: the network, modems, and what each service's kind wants. */
export const credentialsNeeded = (site: Site): CredentialNeed[] => [
  ...networkNeeds(site),
  ...site.controllers.filter(({ link }) => link === 'modem').flatMap(modemNeeds),
  ...[...site.services, ...site.hubs].flatMap((holder) =>
    keysOf(site, holder).flatMap((secret) => secretNeeds(site, holder, secret)),
  ),
  ...site.hubs.flatMap(hubNeeds),
  ...nearbyNeeds(site),
]

/** What a holder's kind asks for; a voice service that is linked through an account asks for nothing here. */
const keysOf = (site: Site, holder: Service | Hub): readonly Secret[] =>
  'linkedThrough' in holder && holder.linkedThrough !== undefined
    ? []
    : (serviceKindIn(site, holder.kind)?.secrets ?? [])

/** Controllers that speak to a service or hub, in the site's order. */
export function controllersOf(site: Site, id: string): string[] {
  const service = site.services.find((candidate) => candidate.id === id)
  const channels = new Set(
    site.ways.flatMap((way) =>
      ((way.kind === 'app' || way.kind === 'voice') && way.service === id) || (way.kind === 'hub' && way.hub === id)
        ? [way.channel as string]
        : [],
    ),
  )
  const inGroups = new Set(
    site.groups.flatMap((group) =>
      group.ways?.some((way) => way.kind === 'hub' && way.hub === id) ? (group.members as readonly string[]) : [],
    ),
  )
  const own = new Set([
    ...site.channels
      .filter(({ id: channel }) => channels.has(channel) || inGroups.has(channel))
      .map((channel) => channel.controller as string),
    ...(service?.points.map((point) => point.controller as string) ?? []),
  ])
  return site.controllers.map((controller) => controller.id as string).filter((controller) => own.has(controller))
}

/** A pasted value made clean, with what was done to it. */
export interface Cleaned {
  readonly value: string
  readonly changes: readonly string[]
}

/**
 * Cleans what was pasted: blanks and line ends around it; for a host also the scheme, user, port-less path, query and
 * trailing slash (RFC 3986, 3: a host is only one part of a URL).
 */
export function cleanPasted(shape: Secret['shape'], pasted: string): Cleaned {
  const changes: string[] = []
  let value = pasted
  const step = (next: string, what: string): void => {
    if (next !== value) changes.push(what)
    value = next
  }
  // a password may hold blanks inside, and even at its ends on purpose; only line ends are surely not meant
  if (shape === 'password') {
    step(value.replace(/[\r\n]+$/g, ''), 'line end removed')
    return { value, changes }
  }
  step(value.trim(), 'spaces around it removed')
  step(value.replace(/^["'“”`]+|["'“”`]+$/g, ''), 'quotes removed')
  if (shape === 'token' || shape === 'key' || shape === 'pin') step(value.replace(/\s+/g, ''), 'spaces inside removed')
  if (shape === 'host') {
    step(value.replace(/^[a-z][a-z0-9+.-]*:\/\//i, ''), 'scheme removed')
    step(value.replace(/^[^/@]*@/, ''), 'user removed')
    step(value.replace(/[/?#].*$/, ''), 'path and slash removed')
    step(value.toLowerCase(), 'changed to lower case')
  }
  if (shape === 'url') step(value.replace(/\/+$/, ''), 'trailing slash removed')
  return { value, changes }
}

/** PINs that everybody tries first. */
const USUAL_PINS = new Set([
  '0000',
  '1111',
  '1234',
  '4321',
  '12345678',
  '123456',
  '000000',
  '00000000',
  '20202021',
  'abcd1234',
])
export const isDefaultPin = (value: string): boolean => USUAL_PINS.has(value.toLowerCase())

/** Such a PIN is the password of the controller's own network too: 8 or more (IEEE 802.11, passphrase; memory). */
const PAIRING_PIN = /^[0-9A-Za-z-]{8,16}$/

/** What is wrong with a cleaned value's shape, or null. */
export function shapeTrouble(of: Pick<CredentialNeed, 'shape' | 'pairs'>, value: string): string | null {
  if (value === '') return 'is empty'
  switch (of.shape) {
    // RFC 1123, 2.1: letters, digits and hyphens between dots; an optional port
    case 'host':
      return /^(?=.{1,253}(:|$))[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?(\.[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?)*(:\d{1,5})?$/i.test(
        value,
      )
        ? null
        : 'is not a host: use letters, digits, hyphens and dots'
    case 'url':
      return /^https?:\/\/[^\s/]+(\/\S*)?$/.test(value) ? null : 'is not an address: begin with http:// or https://'
    case 'pin':
      if (of.pairs)
        return PAIRING_PIN.test(value)
          ? null
          : 'is not a PIN that pairs: use 8 to 16 digits or letters, it protects the Wi-Fi password'
      return /^[0-9A-Za-z-]{4,16}$/.test(value) ? null : 'is not a PIN: use 4 to 16 digits or letters'
    case 'token':
    case 'key':
      return /^[\x21-\x7e]{8,512}$/.test(value)
        ? null
        : 'is too short or contains an invalid character: use 8 or more letters, digits and signs'
    case 'password':
      return value.length > 256 ? 'is too long: 256 characters at most' : null
    case 'text':
      return value.length > 256 ? 'is too long: 256 characters at most' : null
  }
}

/** Names and addresses that lead nowhere but into the house: RFC 1918, RFC 6762, loopback, a name without a dot. */
export const isInHouse = (host: string): boolean =>
  /^(10\.|127\.|192\.168\.|172\.(1[6-9]|2\d|3[01])\.|[^.]+$)|\.(local|lan|home\.arpa)$/.test(host.split(':')[0]!)
