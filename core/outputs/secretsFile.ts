import { linksOf, tablesOf } from '../image'
import { HOUSE_SECRETS, secretsRead } from '../wires'
import { coprocessorOf, speaksAs, type Controller, type Service, type Site } from '../site'
import { credentialsNeeded, wiredHolders, wireOf, type CredentialNeed } from '../services'
import { cString } from './imageHeader'
import { macroFor } from './macros'

/** Where the broker is: not a secret, but it stands beside them. */
export interface BrokerPlace {
  readonly address: string
  readonly port: number
  /** the broker speaks TLS on this port */
  readonly tls: boolean
  readonly user: string
  readonly password: string
}

/** The macro of a credential. */
export const macroOf = (need: CredentialNeed): string => macroFor(need.key)

/** Where a service with a wire of its own is reached. */
export interface ServicePlace {
  readonly address: string
  readonly port: number
}

/** Credentials of a broker stand in the lines of the broker itself. */
const isBrokers = (site: Site, need: CredentialNeed): boolean =>
  site.hubs.some((hub) => hub.kind === 'broker' && need.key.startsWith(`${hub.id}/`))

/** A coprocessor holds what its main board would: that has no network to use it on. */
const ownersOf = (site: Site, { id }: Controller): readonly string[] =>
  coprocessorOf(site, id) ? [] : [id, speaksAs(site, id)]

/** Credentials that go into one controller's file. */
export const secretsOf = (site: Site, controller: Controller): CredentialNeed[] =>
  credentialsNeeded(site).filter(
    (need) => ownersOf(site, controller).some((id) => need.controllers.includes(id)) && !isBrokers(site, need),
  )

const hasSchedules = (site: Site, controller: Controller): boolean =>
  tablesOf(site, controller.id).image.schedules.length > 0

/** How the broker of the house is found and opened. */
function brokerLines(broker: BrokerPlace): string[] {
  const hint = '// host name or address only: no scheme, no path, no trailing slash'
  return [
    `#define ${macroFor(HOUSE_SECRETS.address)} ${cString(broker.address)}  ${hint}`,
    ...(broker.address === '127.0.0.1'
      ? ['// That is the machine itself: boards reach the broker when Vestibule runs with --host or --broker-host.']
      : []),
    `#define ${macroFor(HOUSE_SECRETS.port)} ${broker.port}${broker.tls ? '  // TLS' : ''}`,
    `#define ${macroFor(HOUSE_SECRETS.user)} ${cString(broker.user)}`,
    `#define ${macroFor(HOUSE_SECRETS.password)} ${cString(broker.password)}`,
  ]
}

/** Where each service with a wire of its own is; what its wire does not ask for is not written. */
function placeLines(
  services: readonly Service[],
  placeOf: (service: Service) => ServicePlace,
  isRead: (key: string) => boolean,
): string[] {
  return services.flatMap((service) => {
    const { address, port } = placeOf(service)
    const [where, at] = [`${service.id}/address`, `${service.id}/port`]
    return [
      ...(isRead(where) ? [`#define ${macroFor(where)} ${cString(address)}`] : []),
      ...(isRead(at) ? [`#define ${macroFor(at)} ${port}`] : []),
    ]
  })
}

/** The links of a board, by what the tables that it runs say. */
export function linksHere(site: Site, controller: Controller): { house: boolean; services: Service[] } {
  const links = linksOf(tablesOf(site, controller.id).image)
  return {
    house: links.some(({ own }) => own),
    services: wiredHolders(site).filter((service) => links.some(({ id, own }) => !own && id === service.id)),
  }
}

/**
 * `secrets.h` of a controller. `reveal` gives a value by its key, `placeOf` where a service is; the example is written
 * with ones that give nothing.
 */
export function secretsFile(
  site: Site,
  controller: Controller,
  broker: BrokerPlace,
  reveal: (key: string) => string,
  placeOf: (service: Service) => ServicePlace,
): string {
  const own = secretsOf(site, controller).map(
    (need) =>
      `#define ${macroOf(need)} ${cString(reveal(need.key))}${need.shownOnce ? '  // shown by the service a single time' : ''}`,
  )
  const { house, services } = linksHere(site, controller)
  // a port that reads nothing yet still names what it will need
  const read = secretsRead(site, controller.id)
  const links =
    controller.link === 'none'
      ? []
      : [
          ...(house ? brokerLines(broker) : []),
          ...placeLines(services, placeOf, (key) => read.size === 0 || read.has(key)),
        ]
  const modem =
    controller.link !== 'none' && controller.modem
      ? [`#define VESTIBULE_MODEM_APN ${cString(controller.modem.apn)}`]
      : []
  const time =
    controller.link !== 'none' && hasSchedules(site, controller)
      ? ['#define VESTIBULE_TIME_SERVER ""  // for schedules: an NTP server by name or address; many routers are one']
      : []
  const lines = [...own, ...links, ...modem, ...time]
  return (
    `// Secrets of ${controller.id}: keep this file out of whatever you share.\n#ifndef ` +
    `VESTIBULE_SECRETS_H\n#define ` +
    `VESTIBULE_SECRETS_H\n\n${lines.length ? lines.join('\n') : '// This controller has no link: it needs no secrets.'}\n\n#endif\n`
  )
}

/**
 * `secrets.example.h`: which secrets this controller needs, with nothing in them. The real file never leaves the
 * maker's hands.
 */
export function secretsExample(site: Site, controller: Controller): string {
  const user = `${site.id}.${speaksAs(site, controller.id)}`
  const broker = { address: '', port: 1883, tls: false, user, password: '' }
  const file = secretsFile(site, controller, broker, () => '', emptyPlace(site))
  return `// Copy to secrets.h and fill in.\n${file}`
}

/** A service as the document knows it: its host, and the port that its wire names. */
const emptyPlace =
  (site: Site) =>
  (service: Service): ServicePlace => {
    const wire = wireOf(site, service)
    const [address = '', port] = service.host.split(':')
    return { address, port: port ? Number(port) : wire && 'port' in wire ? wire.port : 0 }
  }
