import QRCode from 'qrcode'
import {
  hubSecrets,
  pairingLabel,
  pairingPayload,
  secretsFile,
  type Pairing,
  type ServicePlace,
} from '../../core/outputs'
import { cleanPasted, credentialsNeeded, shapeTrouble } from '../../core/services'
import { speaksAs, type Service, type Site } from '../../core/site'
import { nameOfUser, type BrokerUser } from '../broker/rights'
import { controllerIn, storedSite, type Context } from '../context'
import { credentialRecords } from '../record'
import { addressOf } from '../secretAddress'
import { notFound, Refusal } from '../refusal'
import { DONE, serve, type Served } from './serve'

/** Where a controller, or the hub, finds the broker, and how it opens it. */
function brokerFor(context: Context, user: Exclude<BrokerUser, { kind: 'service' | 'listener' }>) {
  const { externalUrl, url } = context.house
  const place = new URL(url || 'mqtt://127.0.0.1:1883')
  const tls = place.protocol === 'mqtts:'
  return {
    address: externalUrl ? place.hostname : context.boardsFind,
    port: Number(place.port || (tls ? 8883 : 1883)),
    tls,
    user: nameOfUser(user),
    password: context.house.brokerPassword(user) ?? '',
  }
}

/** Where boards find a service: where its document says, else at its stand-in here. */
function placeOf(context: Context, { host }: Service): ServicePlace {
  const [address, port] = host.split(':')
  if (address) return { address, port: Number(port ?? context.house.doorPort) }
  return { address: context.boardsFind, port: context.house.doorPort }
}

/** A sketch is compiled and sent within this time. */
const FLASH_DOOR_MINUTES = 60

const revealIn =
  (context: Context, site: string) =>
  (key: string): string => {
    const { owner, name } = addressOf(key)
    return context.db.credentials.reveal(site, owner, name) ?? ''
  }

/**
 * Credentials: typed once, cleaned, encrypted at rest, and shown never again. They leave only in the secrets file that
 * is
 * asked for.
 */
export function credentialRoutes(context: Context): Served[] {
  const { credentials } = context.db
  const changed = (site: Site) => {
    context.house.recheck(site)
    context.live.tell({ kind: 'credentials', site: site.id })
  }
  return [
    serve('credentials', ({ params }) => {
      const { site } = storedSite(context, params.site)
      const known = new Map(credentialRecords(context, site).map((record) => [record.key, record]))
      const rows = credentialsNeeded(site).map(({ controllers, ...need }) => ({
        ...need,
        controllers: [...controllers],
        stored: known.get(need.key) ?? null,
      }))
      return { credentials: rows }
    }),
    serve('putCredential', ({ params, body }) => {
      const { site } = storedSite(context, params.site)
      const need = credentialsNeeded(site).find((candidate) => candidate.key === body.key)
      if (!need) throw notFound(`a credential "${body.key}"`)
      const { value, changes } = cleanPasted(need.shape, body.value)
      const trouble = shapeTrouble(need, value)
      // the refusal names the field, never the value
      if (trouble) throw new Refusal(422, 'credential-refused', `${need.owner}, ${need.label}: ${trouble}`)
      const { owner, name } = addressOf(need.key)
      credentials.put(site.id, owner, name, value, context.now())
      changed(site)
      return { changes: [...changes] }
    }),
    serve('deleteCredential', ({ params, body }) => {
      const { site } = storedSite(context, params.site)
      const { owner, name } = addressOf(body.key)
      if (!credentials.remove(site.id, owner, name)) throw notFound('this credential')
      changed(site)
      return DONE
    }),
    serve('pairingLabel', ({ params, response }) => {
      const { site } = storedSite(context, params.site)
      const controller = controllerIn(site, params.controller)
      const pairings = credentialsNeeded(site).flatMap((need): Pairing[] => {
        if (!need.controllers.includes(controller.id) || !need.pairs) return []
        const { owner, name } = addressOf(need.key)
        const value = credentials.reveal(site.id, owner, name)
        return value === undefined ? [] : [{ need, value }]
      })
      if (pairings.length === 0) throw notFound(`anything that pairs ${controller.name}`)
      const { modules } = QRCode.create(pairingPayload(site, controller, pairings), { errorCorrectionLevel: 'M' })
      const code = { size: modules.size, isDark: (row: number, column: number) => modules.get(row, column) === 1 }
      response.set('Cache-Control', 'no-store').type('image/svg+xml')
      return pairingLabel(site, controller, pairings, code)
    }),
    serve('hubSecrets', ({ params, response }) => {
      const { site } = storedSite(context, params.site)
      const hub = site.hubs.find(({ id }) => id === params.hub)
      if (!hub) throw notFound(`the hub "${params.hub}"`)
      response.set('Cache-Control', 'no-store').attachment(`${hub.id}-secrets.yaml`).type('application/yaml')
      return hubSecrets(site, hub, brokerFor(context, { kind: 'hub', site: site.id }), revealIn(context, site.id))
    }),
    serve('secrets', ({ params, response }) => {
      const { site } = storedSite(context, params.site)
      const controller = controllerIn(site, params.controller)
      const reveal = revealIn(context, site.id)
      // who takes the secrets of a board is about to flash it
      context.house.openDoor(site, controller.id, FLASH_DOOR_MINUTES)
      response.set('Cache-Control', 'no-store').attachment('secrets.h').type('text/plain')
      return secretsFile(
        site,
        controller,
        brokerFor(context, { kind: 'controller', site: site.id, controller: speaksAs(site, controller.id) }),
        reveal,
        (service) => placeOf(context, service),
      )
    }),
  ]
}
