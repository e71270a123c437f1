import { z } from 'zod'
import { secretsFile } from '../../core/outputs'
import { cleanPasted, credentialsNeeded, shapeTrouble } from '../../core/ways'
import { controllerIn, storedSite, type Context } from '../context'
import { addressOf, credentialRecords } from '../record'
import { notFound, Refusal } from '../refusal'
import { parameter, route, type Route } from './define'

/**
 * Credentials: typed once, cleaned, encrypted at rest, and shown never again. They leave only in the secrets file that
 * is asked for.
 */
export function credentialRoutes(context: Context): Route[] {
  const { credentials } = context.db
  return [
    route({
      method: 'get',
      path: '/api/sites/:site/credentials',
      summary: 'Which credentials the site needs, and what is known of those that are stored; never what they say',
      handle: (request) => {
        const { site } = storedSite(context, parameter(request, 'site'))
        const known = new Map(credentialRecords(context, site).map((record) => [record.key, record]))
        return {
          credentials: credentialsNeeded(site).map((need) => ({ ...need, stored: known.get(need.key) ?? null })),
        }
      },
    }),
    route({
      method: 'put',
      path: '/api/sites/:site/credentials',
      summary: 'Type a credential once: it is cleaned, checked and encrypted',
      body: z.strictObject({ key: z.string().min(3).max(120), value: z.string().min(1).max(4000) }),
      handle: (request, _response, body) => {
        const { site } = storedSite(context, parameter(request, 'site'))
        const need = credentialsNeeded(site).find((candidate) => candidate.key === body.key)
        if (!need) throw notFound(`a credential "${body.key}"`)
        const { value, changes } = cleanPasted(need.shape, body.value)
        const trouble = shapeTrouble(need.shape, value)
        // the refusal names the field, never the value
        if (trouble) throw new Refusal(422, 'credential-refused', `${need.owner}, ${need.label}: ${trouble}`)
        const { owner, name } = addressOf(need.key)
        credentials.put(site.id, owner, name, value, context.now())
        context.live.tell({ kind: 'credentials', site: site.id })
        return { changes }
      },
    }),
    route({
      method: 'delete',
      path: '/api/sites/:site/credentials',
      summary: 'Forget a credential',
      body: z.strictObject({ key: z.string().min(3).max(120) }),
      handle: (request, _response, body) => {
        const { site } = storedSite(context, parameter(request, 'site'))
        const { owner, name } = addressOf(body.key)
        if (!credentials.remove(site.id, owner, name)) throw notFound('this credential')
        context.live.tell({ kind: 'credentials', site: site.id })
      },
    }),
    route({
      method: 'post',
      path: '/api/sites/:site/controllers/:controller/secrets',
      summary: 'The secrets file of a controller, filled in: the only place where secrets leave',
      answers: 'text/plain',
      handle: (request, response) => {
        const { site } = storedSite(context, parameter(request, 'site'))
        const controller = controllerIn(site, parameter(request, 'controller'))
        const address = new URL(context.house.url || 'mqtt://127.0.0.1:1883')
        const reveal = (key: string): string => {
          const { owner, name } = addressOf(key)
          return credentials.reveal(site.id, owner, name) ?? ''
        }
        const broker = {
          address: address.hostname,
          port: Number(address.port || 1883),
          user: `${site.id}.${controller.id}`,
          password: context.house.brokerPassword(site.id, controller.id) ?? '',
        }
        response
          .set('Cache-Control', 'no-store')
          .attachment('secrets.h')
          .type('text/plain')
          .send(secretsFile(site, controller, broker, reveal))
      },
    }),
  ]
}
