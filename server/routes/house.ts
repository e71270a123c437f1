import { holderOf, wireOf } from '../../core/services'
import type { Site } from '../../core/site'
import { storedSite, type Context } from '../context'
import { dryRun } from '../dryRun'
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
    serve('dryRun', ({ params, body }) => {
      const { site } = storedSite(context, params.site)
      const wire = wireOfHolder(site, params.service)
      const [address = LOOPBACK, port] = body.address?.split(':') ?? [LOOPBACK, String(context.house.doorPort)]
      const place = { address, port: Number(port ?? wire.port), isStandIn: body.address === null }
      return dryRun(site, params.service, place, context.house.revealOf(site.id))
    }),
    ...hubRoutes(context),
    ...rigRoutes(context),
    serve('setFaults', ({ params, body }) => {
      if (!context.house.setFaults(params.site, params.service, body))
        throw notFound(`a stand-in of its own for "${params.service}"`)
      return DONE
    }),
  ]
}

const rigRoutes = (context: Context): Served[] => [
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
  serve('pairBoard', async ({ params, body }) => {
    const { site } = storedSite(context, params.site)
    const how = await context.house.pairBoard(site, params.controller, body.pin)
    if (!how) throw notFound(`a board "${params.controller}" that can be paired`)
    return how
  }),
]

const hubRoutes = (context: Context): Served[] => [
  serve('hubPage', ({ params }) => hubOf(context, params.site).page()),
  serve('hubCommand', ({ params, body }) => {
    if (!hubOf(context, params.site).says(body)) throw notFound('what the hub was to speak to')
    return DONE
  }),
  serve('setHubFaults', ({ params, body }) => {
    hubOf(context, params.site).setFaults(body)
    return DONE
  }),
]

const LOOPBACK = '127.0.0.1'

/** The port that a wire goes to, where the maker names none. */
function wireOfHolder(site: Site, service: string): { readonly port: number } {
  const holder = holderOf(site, service)?.service
  const wire = holder && wireOf(site, holder)
  if (!wire) throw notFound(`a wire of "${service}"`)
  return wire.transport === 'hook' ? { port: wire.call?.port ?? 80 } : wire
}

function hubOf(context: Context, id: string): HubStandIn {
  const hub = context.house.hub(storedSite(context, id).site)
  if (!hub) throw notFound('a hub on the broker of this site')
  return hub
}
