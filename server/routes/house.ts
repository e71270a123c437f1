import { z } from 'zod'
import { controllerIn, storedSite, type Context } from '../context'
import { notFound } from '../refusal'
import { parameter, route, type Route } from './define'

const word = z.string().trim().min(1).max(60)

/** A C string literal for the secrets file. */
const literal = (text: string): string => `"${text.replace(/[\\"]/g, '\\$&').replace(/[\r\n]/g, '')}"`

export function houseRoutes(context: Context): Route[] {
  const { credentials } = context.db
  return [
    route({
      method: 'get', path: '/api/sites/:site/stand-ins/:service', summary: 'What the app-service stand-in holds: values, and who is online',
      handle: (request) => {
        const state = context.house.standIn(parameter(request, 'site'))?.state(parameter(request, 'service'))
        if (!state) throw notFound(`the service "${parameter(request, 'service')}"`)
        return state
      },
    }),
    route({
      method: 'post', path: '/api/sites/:site/stand-ins/:service/widgets/:widget', summary: 'Touch a widget of the app-service stand-in', body: z.strictObject({ on: z.boolean() }),
      handle: (request, _response, body) => {
        if (!context.house.standIn(parameter(request, 'site'))?.touch(parameter(request, 'service'), parameter(request, 'widget'), body.on)) throw notFound(`a widget "${parameter(request, 'widget')}" that can be touched`)
      },
    }),
    route({ method: 'get', path: '/api/sites/:site/credentials', summary: 'Which credentials there are, never what they say', handle: (request) => ({ credentials: credentials.list(storedSite(context, parameter(request, 'site')).site.id) }) }),
    route({
      method: 'put', path: '/api/sites/:site/credentials', summary: 'Type a credential once; it is encrypted at rest', body: z.strictObject({ owner: word, name: word, secret: z.string().min(1).max(4000) }),
      handle: (request, _response, body) => credentials.put(storedSite(context, parameter(request, 'site')).site.id, body.owner, body.name, body.secret, context.now()),
    }),
    route({
      method: 'delete', path: '/api/sites/:site/credentials/:owner/:name', summary: 'Forget a credential',
      handle: (request) => {
        if (!credentials.remove(storedSite(context, parameter(request, 'site')).site.id, parameter(request, 'owner'), parameter(request, 'name'))) throw notFound('this credential')
      },
    }),
    route({
      method: 'post', path: '/api/sites/:site/controllers/:controller/secrets', summary: 'The secrets file of a controller, filled in: the only place where secrets leave', answers: 'text/plain',
      handle: (request, response) => {
        const { site } = storedSite(context, parameter(request, 'site'))
        const controller = controllerIn(site, parameter(request, 'controller'))
        const reveal = (owner: string, name: string) => credentials.reveal(site.id, owner, name) ?? ''
        const address = new URL(context.house.url || 'mqtt://127.0.0.1:1883')
        const lines = [
          ['WIFI_NAME', literal(reveal('site', 'Wi-Fi name'))],
          ['WIFI_PASSWORD', literal(reveal('site', 'Wi-Fi password'))],
          ['BROKER_ADDRESS', literal(address.hostname)],
          ['BROKER_PORT', address.port || '1883'],
          ['BROKER_USER', literal(`${site.id}.${controller.id}`)],
          ['BROKER_PASSWORD', literal(context.house.brokerPassword(site.id, controller.id) ?? '')],
        ].map(([name, value]) => `#define VESTIBULE_${name} ${value}`)
        response.set('Cache-Control', 'no-store').attachment('secrets.h').type('text/plain').send(`// Secrets of ${controller.id}: keep this file out of whatever you share.\n#ifndef VESTIBULE_SECRETS_H\n#define VESTIBULE_SECRETS_H\n\n${lines.join('\n')}\n\n#endif\n`)
      },
    }),
  ]
}
