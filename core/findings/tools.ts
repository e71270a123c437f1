import { boardIn } from '../boards'
import { figure } from '../electrics'
import { tablesOf } from '../image'
import { powerUpOf, type Channel, type Controller } from '../site'
import type { Check, Finding, Where } from './finding'

const whereOf = (controller: Controller, step: 'bench' | 'build'): Where => ({
  thing: 'controller',
  id: controller.id,
  name: controller.name,
  controller: controller.id,
  step,
})

/** T04 build older than the site */
export const boardBehindSite: Check = (site, record) =>
  site.controllers.flatMap((controller): Finding[] => {
    const flashed = record.flashed.find((flash) => flash.controller === controller.id)
    if (!flashed || !boardIn(site, controller.board)) return []
    const { hash } = tablesOf(site, controller.id).image
    if (hash === flashed.hash) return []
    return [
      {
        id: 'T04',
        severity: 'note',
        title: 'board behind the site',
        where: whereOf(controller, 'build'),
        what: `The board of ${controller.name} runs tables ${flashed.hash}; the site now gives ${hash}.`,
        why: 'What you see here is not what the board does until it is flashed again.',
        fixes: [],
      },
    ]
  })

function restoresLevel(channel: Channel): boolean {
  const policy = powerUpOf(channel)
  return policy.policy === 'last' || (policy.policy === 'service' && policy.otherwise === 'last')
}

/** A store that lasts as long as the controller is silent (common practice). */
const LEAST_YEARS = 10

/** T06 flash wear: writes on the assumed day against endurance */
export const flashWear: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const board = boardIn(site, controller.board)
    const stored = site.channels.filter((c) => c.controller === controller.id && restoresLevel(c)).length
    if (!board || stored === 0) return []
    const writes = stored * site.day.changes
    const years = board.storeEndurance / writes / 365
    if (years >= LEAST_YEARS) return []
    return [
      {
        id: 'T06',
        severity: 'warning',
        title: 'store wears out',
        where: whereOf(controller, 'bench'),
        what:
          `${stored} stored channel${stored === 1 ? '' : 's'} at ${site.day.changes} changes a day ` +
          `${stored === 1 ? 'is' : 'are'} ${writes} writes a day: ` +
          `${board.storeEndurance.toLocaleString('en')} writes last ${figure(years)} years.`,
        why: 'Then states come back wrong after a power cut.',
        fixes: [],
      },
    ]
  })

export const toolChecks: readonly Check[] = [boardBehindSite, flashWear]
