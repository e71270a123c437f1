import { secretsFile } from '../../core/outputs'
import { cleanPasted, credentialsNeeded, shapeTrouble } from '../../core/services'
import { controllerIn, storedSite, type Context } from '../context'
import { addressOf, credentialRecords } from '../record'
import { notFound, Refusal } from '../refusal'
import { DONE, serve, type Served } from './serve'

/** Where a controller finds the broker, and how it opens it. */
function brokerFor(context: Context, site: string, controller: string) {
  const address = new URL(context.house.url || 'mqtt://127.0.0.1:1883')
  return {
    address: address.hostname,
    port: Number(address.port || 1883),
    user: `${site}.${controller}`,
    password: context.house.brokerPassword(site, controller) ?? '',
  }
}

/**
 * Credentials: typed once, cleaned, encrypted at rest, and shown never again. They leave only in the secrets file that
 * is
 * asked for.
 */
export function credentialRoutes(context: Context): Served[] {
  const { credentials } = context.db
  const changed = (site: string) => context.live.tell({ kind: 'credentials', site })
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
      const trouble = shapeTrouble(need.shape, value)
      // the refusal names the field, never the value
      if (trouble) throw new Refusal(422, 'credential-refused', `${need.owner}, ${need.label}: ${trouble}`)
      const { owner, name } = addressOf(need.key)
      credentials.put(site.id, owner, name, value, context.now())
      changed(site.id)
      return { changes: [...changes] }
    }),
    serve('deleteCredential', ({ params, body }) => {
      const { site } = storedSite(context, params.site)
      const { owner, name } = addressOf(body.key)
      if (!credentials.remove(site.id, owner, name)) throw notFound('this credential')
      changed(site.id)
      return DONE
    }),
    serve('secrets', ({ params, response }) => {
      const { site } = storedSite(context, params.site)
      const controller = controllerIn(site, params.controller)
      const reveal = (key: string): string => {
        const { owner, name } = addressOf(key)
        return credentials.reveal(site.id, owner, name) ?? ''
      }
      response.set('Cache-Control', 'no-store').attachment('secrets.h').type('text/plain')
      return secretsFile(site, controller, brokerFor(context, site.id, controller.id), reveal)
    }),
  ]
}
