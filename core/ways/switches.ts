import { inputRoles, newInput, type Channel, type Input, type Site, type WallWay } from '../site'
import { addSwitchFor, addWallWay, usualBindings } from './newWays'

/** Makes a rocker of a push switch or the reverse, with the gestures that it can make. Changes a draft. */
export function setInputKind(site: Site, id: string, kind: Input['kind']): void {
  const at = site.inputs.findIndex((input) => input.id === id)
  const input = site.inputs[at]
  if (!input || input.kind === kind) return
  const controller = site.controllers.find((candidate) => candidate.id === input.controller)!
  const { room, closedLevel, pull, sense, settle, settleMs, cableMetres, bounceMs, volts } = input
  site.inputs[at] = newInput(site, input.name, controller, kind, {
    id: input.id,
    room,
    closedLevel,
    pull,
    sense,
    settle,
    settleMs,
    cableMetres,
    bounceMs,
    volts,
  })
  // another kind may need another number of pins
  for (const role of inputRoles(input)) delete controller.pins[role]
  for (const way of site.ways)
    if (way.kind === 'wall' && way.input === id)
      way.bindings = usualBindings(
        kind,
        site.channels.find((channel) => channel.id === way.channel),
      )
}

/** A wall way for a channel: on the first switch of its controller that works nothing yet, or on a new one. */
export function giveWallWay(site: Site, channel: Channel, kind: Input['kind'] = 'momentary'): WallWay {
  const busy = new Set([
    ...site.ways.flatMap((way) => (way.kind === 'wall' ? [way.input as string] : [])),
    ...site.controls.flatMap(({ source }) => (source.kind === 'wall' ? [source.input as string] : [])),
  ])
  const idle = site.inputs.find(
    (input) => input.controller === channel.controller && input.kind !== 'contact' && !busy.has(input.id),
  )
  const controller = site.controllers.find((candidate) => candidate.id === channel.controller)!
  return addWallWay(site, channel, idle ?? addSwitchFor(site, channel, kind, controller))
}
