import type { Secret, Site } from '../site'
import { serviceKindIn } from './serviceKinds'

/**
 * One credential that the site needs: who wants it, for what. Its value is kept by the server, encrypted, and never
 * here.
 */
export interface CredentialNeed {
  /** unique in the site: "wifi/password", "app/device-token/throwing" */
  readonly key: string
  readonly label: string
  readonly owner: string
  /** the controllers into whose secrets file it goes */
  readonly controllers: readonly string[]
  readonly shape: Secret['shape']
  readonly secret: boolean
  readonly shownOnce: boolean
  /** why it is needed, as a person reads it */
  readonly usedIn: string
}

const need = (
  key: string,
  label: string,
  owner: string,
  controllers: readonly string[],
  shape: Secret['shape'],
  usedIn: string,
  more: Partial<CredentialNeed> = {},
): CredentialNeed => ({ key, label, owner, controllers, shape, secret: true, shownOnce: false, usedIn, ...more })

/** Everything that must be typed, once each: the network, modems, and what each service's kind wants. */
export function credentialsNeeded(site: Site): CredentialNeed[] {
  const nameOf = (id: string): string => site.controllers.find((controller) => controller.id === id)?.name ?? id
  const wireless = site.controllers
    .filter((controller) => controller.link === 'wifi')
    .map((controller) => controller.id as string)
  const network = wireless.length
    ? [
        need('wifi/name', 'Wi-Fi name', 'Network', wireless, 'text', 'secrets file of every Wi-Fi controller', {
          secret: false,
        }),
        need(
          'wifi/password',
          'Wi-Fi password',
          'Network',
          wireless,
          'password',
          'secrets file of every Wi-Fi controller',
        ),
      ]
    : []
  const modems = site.controllers
    .filter((controller) => controller.link === 'modem')
    .flatMap((controller) => [
      need(
        `modem/user/${controller.id}`,
        'Network user',
        `${controller.name} modem`,
        [controller.id],
        'text',
        `secrets file of ${controller.name}`,
        { secret: false },
      ),
      need(
        `modem/password/${controller.id}`,
        'Network password',
        `${controller.name} modem`,
        [controller.id],
        'password',
        `secrets file of ${controller.name}`,
      ),
    ])
  const holders = [
    ...site.services.map((service) => ({
      id: service.id as string,
      name: service.name,
      kind: service.kind,
      controllers: controllersOf(site, service.id),
    })),
    ...site.hubs.map((hub) => ({
      id: hub.id as string,
      name: hub.name,
      kind: hub.kind,
      controllers: controllersOf(site, hub.id),
    })),
  ]
  const services = holders.flatMap(({ id, name, kind, controllers }) =>
    (serviceKindIn(site, kind)?.secrets ?? []).flatMap((secret) => {
      const more = { secret: secret.secret, shownOnce: secret.shownOnce }
      return secret.per === 'service'
        ? [
            need(
              `${id}/${secret.id}`,
              secret.label,
              name,
              controllers,
              secret.shape,
              controllers.length
                ? `secrets file of ${controllers.map(nameOf).join(', ')}`
                : 'the service’s own settings',
              more,
            ),
          ]
        : controllers.map((controller) =>
            need(
              `${id}/${secret.id}/${controller}`,
              `${secret.label}, ${nameOf(controller)}`,
              name,
              [controller],
              secret.shape,
              `secrets file of ${nameOf(controller)}`,
              more,
            ),
          )
    }),
  )
  return [...network, ...modems, ...services]
}

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
  const own = new Set([
    ...site.channels.filter((channel) => channels.has(channel.id)).map((channel) => channel.controller as string),
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
    step(value.replace(/[\r\n]+$/g, ''), 'line end taken off')
    return { value, changes }
  }
  step(value.trim(), 'blanks around it taken off')
  step(value.replace(/^["'“”`]+|["'“”`]+$/g, ''), 'quotes taken off')
  if (shape === 'token' || shape === 'key' || shape === 'pin')
    step(value.replace(/\s+/g, ''), 'blanks inside taken out')
  if (shape === 'host') {
    step(value.replace(/^[a-z][a-z0-9+.-]*:\/\//i, ''), 'scheme taken off')
    step(value.replace(/^[^/@]*@/, ''), 'user taken off')
    step(value.replace(/[/?#].*$/, ''), 'path and slash taken off')
    step(value.toLowerCase(), 'made small')
  }
  if (shape === 'url') step(value.replace(/\/+$/, ''), 'trailing slash taken off')
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

/** What is wrong with a cleaned value's shape, or null. */
export function shapeTrouble(shape: Secret['shape'], value: string): string | null {
  if (value === '') return 'is empty'
  switch (shape) {
    // RFC 1123, 2.1: letters, digits and hyphens between dots; an optional port
    case 'host':
      return /^(?=.{1,253}(:|$))[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?(\.[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?)*(:\d{1,5})?$/i.test(
        value,
      )
        ? null
        : 'is no host: letters, digits, hyphens and dots'
    case 'url':
      return /^https?:\/\/[^\s/]+(\/\S*)?$/.test(value) ? null : 'is no address that begins with http:// or https://'
    case 'pin':
      return /^[0-9A-Za-z-]{4,16}$/.test(value) ? null : 'is no PIN of 4 to 16 digits or letters'
    case 'token':
    case 'key':
      return /^[\x21-\x7e]{8,512}$/.test(value) ? null : 'is shorter than 8 characters or holds one that no key has'
    case 'password':
      return value.length > 256 ? 'is longer than 256 characters' : null
    case 'text':
      return value.length > 256 ? 'is longer than 256 characters' : null
  }
}
