import type { Context } from '../context'
import { notFound } from '../refusal'
import { DONE, serve, type Served } from './serve'

export function houseRoutes(context: Context): Served[] {
  return [
    serve('standIn', ({ params }) => {
      const state = context.house.standIn(params.site)?.state(params.service)
      if (!state) throw notFound(`the service "${params.service}"`)
      return { values: { ...state.values }, online: { ...state.online } }
    }),
    serve('touchWidget', ({ params, body }) => {
      const standIn = context.house.standIn(params.site)
      if (!standIn?.touch(params.service, params.widget, body.on, body.value))
        throw notFound(`a widget "${params.widget}" that can be touched`)
      return DONE
    }),
  ]
}
