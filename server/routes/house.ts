import { z } from 'zod'
import type { Context } from '../context'
import { notFound } from '../refusal'
import { parameter, route, type Route } from './define'

export function houseRoutes(context: Context): Route[] {
  return [
    route({
      method: 'get',
      path: '/api/sites/:site/stand-ins/:service',
      summary: 'What the app-service stand-in holds: values, and who is online',
      handle: (request) => {
        const state = context.house.standIn(parameter(request, 'site'))?.state(parameter(request, 'service'))
        if (!state) throw notFound(`the service "${parameter(request, 'service')}"`)
        return state
      },
    }),
    route({
      method: 'post',
      path: '/api/sites/:site/stand-ins/:service/widgets/:widget',
      summary: 'Touch a widget of the app-service stand-in',
      body: z.strictObject({ on: z.boolean(), value: z.int().min(-9_999).max(9_999).optional() }),
      handle: (request, _response, body) => {
        if (
          !context.house
            .standIn(parameter(request, 'site'))
            ?.touch(parameter(request, 'service'), parameter(request, 'widget'), body.on, body.value)
        )
          throw notFound(`a widget "${parameter(request, 'widget')}" that can be touched`)
      },
    }),
  ]
}
