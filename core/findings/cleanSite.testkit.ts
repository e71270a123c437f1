import { planAndWrite } from '../pins'
import { usualFeed } from './mainsSide'
import {
  emptySite,
  newController,
  newLoad,
  newSwitched,
  optoModule,
  parseSite,
  type Controller,
  type LoadId,
  type RoomId,
  type Site,
} from '../site'
import { addAppWay, addHubWay, addSwitchFor, addWallWay } from '../ways'

/** A site without findings: one controller, two lamps, each by wall, app and hub. */
export function cleanSite(board = 'dual-core-wifi-30', more: Partial<Controller> = {}): Site {
  const site = emptySite('Test bench')
  site.rooms.push({ id: 'hall' as RoomId, name: 'Hall' })
  const controller = newController(site, 'Corner', board, {
    room: 'hall' as RoomId,
    module: { ...optoModule(2), chain: 'opto' },
    mains: usualFeed(site),
    ...more,
  })
  site.controllers.push(controller)
  for (const name of ['Bench lamp', 'Shelf lamp']) {
    const load = newLoad(`${name.split(' ')[0]!.toLowerCase()}-load` as LoadId, `${name} LED`, {
      type: 'led',
      watts: 9,
    })
    site.loads.push(load)
    const channel = newSwitched(site, name, controller, { load: load.id })
    site.channels.push(channel)
    addWallWay(site, channel, addSwitchFor(site, channel, 'momentary', controller))
    addAppWay(site, channel)
    addHubWay(site, channel)
  }
  planAndWrite(site, controller.id)
  const parsed = parseSite(site)
  if (!parsed.ok) throw parsed.error
  return parsed.value
}
