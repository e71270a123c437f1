import { cautionsFor } from './cautions'
import { codeLabel, type Code } from './codeLabel'
import type { Controller, Site } from '../site'
import type { CredentialNeed } from '../services'

/**
 * A label that is stuck to a controller: what pairs it, as words and as a code to scan. It opens the controller to
 * whoever reads it, so that it is kept with the care of the credential itself.
 */

/** What pairs a controller: its credentials that are PINs or pairing codes, with their values. */
export interface Pairing {
  readonly need: CredentialNeed
  readonly value: string
}

/**
 * What the code holds (docs/formats.md, "Pairing label"): a URI of our own scheme (RFC 3986, 3), each part
 * percent-encoded, so that any reader shows it as text.
 */
export function pairingPayload(site: Site, controller: Controller, pairings: readonly Pairing[]): string {
  const pairs = pairings.map(({ need, value }) => [need.key.split('/')[1]!, value] as const)
  const parts = [['site', site.id as string] as const, ['board', controller.id as string] as const, ...pairs]
  return `vestibule:pair?${parts.map(([name, value]) => `${name}=${encodeURIComponent(value)}`).join('&')}`
}

/** The label, 70 × 40 mm. */
export const pairingLabel = (site: Site, controller: Controller, pairings: readonly Pairing[], code: Code): string =>
  codeLabel(
    `Pairing label of ${controller.name}`,
    [
      `${site.name}: ${controller.name}`,
      ...pairings.map(({ need, value }) => `${need.label.split(':')[0]!}: ${value}`),
      'Keep it as you keep keys.',
      ...(cautionsFor(site, controller.id).length ? ['Mains inside: supply off before you open.'] : []),
    ],
    code,
  )
