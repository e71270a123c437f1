import { storedSite, type Context } from '../context'
import { notFound } from '../refusal'
import type { HubStandIn } from '../standIns/hub'
import { DONE, serve, type Served } from './serve'

export function houseRoutes(context: Context): Served[] {
  return [
    serve('standIn', ({ params }) => {
      const page = context.house.page(params.site, params.service)
      if (!page) throw notFound(`the service "${params.service}"`)
      return page
    }),
    serve('touchWidget', ({ params, body }) => {
      if (!context.house.touch(params.site, params.service, params.widget, body.on, body.value))
        throw notFound(`a widget "${params.widget}" that can be touched`)
      return DONE
    }),
    serve('hubPage', ({ params }) => hubOf(context, params.site).page()),
    serve('hubCommand', ({ params, body }) => {
      if (!hubOf(context, params.site).says(body)) throw notFound('what the hub was to speak to')
      return DONE
    }),
    serve('setHubFaults', ({ params, body }) => {
      hubOf(context, params.site).setFaults(body)
      return DONE
    }),
    serve('rig', ({ params }) => context.house.rig(storedSite(context, params.site).site.id).state()),
    serve('turnRig', ({ params, body }) => {
      const { site } = storedSite(context, params.site)
      if (body.on) context.house.startRig(site)
      else context.house.stopRig(site.id)
      return DONE
    }),
    serve('rigEvent', ({ params, body }) => {
      if (!context.house.rig(params.site).event(params.controller, body))
        throw notFound(`a running board "${params.controller}"`)
      return DONE
    }),
    serve('setFaults', ({ params, body }) => {
      if (!context.house.setFaults(params.site, params.service, body))
        throw notFound(`a stand-in of its own for "${params.service}"`)
      return DONE
    }),
  ]
}

function hubOf(context: Context, id: string): HubStandIn {
  const hub = context.house.hub(storedSite(context, id).site)
  if (!hub) throw notFound('a hub on the broker of this site')
  return hub
}
