import { coprocessorOf, speaksAs, type Controller, type Site } from '../site'
import { credentialsNeeded, type CredentialNeed } from '../services'
import { cString } from './imageHeader'

/** Where the broker is: not a secret, but it stands beside them. */
export interface BrokerPlace {
  readonly address: string
  readonly port: number
  /** the broker speaks TLS on this port */
  readonly tls: boolean
  readonly user: string
  readonly password: string
}

/**
 * The macro of a credential: "wifi/password" is VESTIBULE_WIFI_PASSWORD, "app/board-key/throwing"
 * VESTIBULE_APP_BOARD_KEY.
 */
export const macroOf = (need: CredentialNeed): string =>
  `VESTIBULE_${need.key
    .split('/')
    .slice(0, 2)
    .join('_')
    .toUpperCase()
    .replace(/[^A-Z0-9]+/g, '_')}`

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

/**
 * `secrets.h` of a controller. `reveal` gives a value by its key; the example is written with one that gives nothing.
 */
export function secretsFile(
  site: Site,
  controller: Controller,
  broker: BrokerPlace,
  reveal: (key: string) => string,
): string {
  const needs = secretsOf(site, controller)
  const link =
    controller.link === 'none'
      ? []
      : [
          `#define VESTIBULE_BROKER_ADDRESS ${cString(broker.address)}  // host name or address only: no ` +
            'scheme, no path, no trailing slash',
          ...(broker.address === '127.0.0.1'
            ? [
                '// That is the machine itself: boards reach the broker when Vestibule runs with --host or --broker-host.',
              ]
            : []),
          `#define VESTIBULE_BROKER_PORT ${broker.port}${broker.tls ? '  // TLS' : ''}`,
          `#define VESTIBULE_BROKER_USER ${cString(broker.user)}`,
          `#define VESTIBULE_BROKER_PASSWORD ${cString(broker.password)}`,
          ...(controller.modem ? [`#define VESTIBULE_MODEM_APN ${cString(controller.modem.apn)}`] : []),
        ]
  const own = needs.map(
    (need) =>
      `#define ${macroOf(need)} ${cString(reveal(need.key))}${need.shownOnce ? '  // shown by the service a single time' : ''}`,
  )
  const lines = [...own, ...link]
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
export const secretsExample = (site: Site, controller: Controller): string =>
  '// Copy to secrets.h and fill ' +
  `in.\n${secretsFile(site, controller, { address: '', port: 1883, tls: false, user: `${site.id}.${speaksAs(site, controller.id)}`, password: '' }, () => '')}`
