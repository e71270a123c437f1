import { writeFileSync } from 'node:fs'
import { pathToFileURL } from 'node:url'
import { planAndWrite } from '../core/pins'
import {
  emptySite,
  newController,
  newLoad,
  newSwitched,
  optoModule,
  writeSite,
  type LoadId,
  type RoomId,
  type Site,
} from '../core/site'
import { fillColumn, type Column } from '../core/ways'

/** Columns that a large site uses; links and rules are few anywhere. */
const COLUMNS: readonly Column[] = ['wall', 'app', 'hub', 'voice']

/** As many as one board and its module carry with a switch for each. */
const MOST_CHANNELS = 10

/**
 * A site as large as one household or hall gets, for what is measured: each controller with its channels, a load, a
 * switch, a point, an entity and a spoken name for each, pins planned. The same numbers give the same site.
 */
export function largeSite(controllers = 20, perController = MOST_CHANNELS): Site {
  const site = emptySite('Large hall')
  for (let at = 1; at <= controllers; at++) {
    const room = `room-${at}` as RoomId
    site.rooms.push({ id: room, name: `Room ${at}`, wall: { switching: 'one-way', glow: false, neutral: true } })
    const controller = newController(site, `Board ${at}`, 'dual-core-wifi-30', { module: optoModule(16), room })
    site.controllers.push(controller)
    for (let one = 1; one <= perController; one++) {
      const name = `Lamp ${at} ${one}`
      const load = newLoad(`load-${at}-${one}` as LoadId, `${name} LED`)
      site.loads.push({ ...load, type: 'led', watts: 12 })
      site.channels.push({ ...newSwitched(site, name, controller), load: load.id })
    }
  }
  for (const column of COLUMNS) fillColumn(site, column, {})
  for (const { id } of site.controllers) planAndWrite(site, id)
  return site
}

// `npm run large -- FILE [CONTROLLERS]`: writes it as a site file
if (process.argv[1] && import.meta.url === pathToFileURL(process.argv[1]).href) {
  const [file = 'large.json', count = '20'] = process.argv.slice(2)
  const site = largeSite(Number(count))
  writeFileSync(file, writeSite(site))
  console.log(
    `${file}: ${site.controllers.length} controllers, ${site.channels.length} channels, ${site.ways.length} ways`,
  )
}
