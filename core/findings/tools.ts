import { boardIn, UNDRIVEN } from '../boards'
import { figure } from '../electrics'
import { tablesOf } from '../image'
import { changesStore, channelsOn, counted, waysTo, type Controller, type Site, type Way } from '../site'
import { noNetworkWhy } from '../wires'
import { controllerPlace, type Check, type Finding, type Where } from './finding'

const whereOf = (controller: Controller, step: 'bench' | 'build'): Where => ({
  ...controllerPlace(controller),
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
        title: 'Board out of date',
        where: whereOf(controller, 'build'),
        what: `The board of ${controller.name} runs tables ${flashed.hash}; this site gives ${hash}.`,
        why: 'Until it is flashed again, the board does not do what this site says.',
        fixes: [],
      },
    ]
  })

/** A store that lasts as long as the controller is silent (common practice). */
const LEAST_YEARS = 10

/** T05 part that the build neither reads nor writes by itself */
export const undriven: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    if (boardIn(site, controller.board)?.boxed) return []
    const parts = controller.parts.filter(({ profile }) => UNDRIVEN[profile])
    if (parts.length === 0) return []
    return [
      {
        id: 'T05',
        severity: 'note',
        title: 'Driver is yours to write',
        where: whereOf(controller, 'build'),
        what: `${parts.map(({ name, profile }) => `${name}: ${UNDRIVEN[profile]}`).join('; ')} is not in the firmware.`,
        why: 'Until your code does it, rules treat its readings as old. The flash steps name the function.',
        fixes: [],
      },
    ]
  })

/** T07 network planned on a board whose program has none for it */
export const noNetworkInProgram: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const board = boardIn(site, controller.board)
    const why = noNetworkWhy(site, controller)
    if (!board || board.boxed || controller.link === 'none' || why === null) return []
    const asks = channelsOn(site, controller.id).filter(({ id }) => waysTo(site, id).some(overNetwork)).length
    if (asks === 0) return []
    return [
      {
        id: 'T07',
        severity: 'error',
        title: 'Program has no network',
        where: whereOf(controller, 'bench'),
        what:
          `${counted(asks, 'channel')} of ${controller.name} ${asks === 1 ? 'has' : 'have'} ways that need a network, ` +
          `and its program has none: ${why}.`,
        why: 'App, hub and voice would do nothing there.',
        fixes: [],
      },
    ]
  })

const overNetwork = ({ kind }: Way): boolean => kind === 'app' || kind === 'hub' || kind === 'voice'

/** T06 flash wear: writes on the assumed day against endurance */
export const flashWear: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const board = boardIn(site, controller.board)
    const stored = site.channels.filter((c) => c.controller === controller.id && changesStore(c)).length
    if (!board || stored === 0) return []
    const writes = stored * site.day.changes
    const years = board.storeEndurance / writes / 365
    if (years >= LEAST_YEARS) return []
    return [
      {
        id: 'T06',
        severity: 'warning',
        title: 'Store wears out',
        where: whereOf(controller, 'bench'),
        what:
          `${stored} stored channel${stored === 1 ? '' : 's'} at ${site.day.changes} changes per day ` +
          `${stored === 1 ? 'is' : 'are'} ${writes} writes per day: ` +
          `${board.storeEndurance.toLocaleString('en')} writes last ${figure(years)} years.`,
        why: 'Then states come back wrong after a power cut.',
        fixes: [],
      },
    ]
  })

/**
 * What a maker's own profile of a board leaves out, which its flash steps then do not say either. In those that ship an
 * empty list means that there is nothing to choose.
 */
const unsaid = (site: Site, controller: Controller, what: 'settings' | 'programming'): string | null => {
  const board = site.profiles.boards.find(({ id }) => id === controller.board)
  return board && board[what].length === 0 ? board.name : null
}

/** T02 board setting missing: what the board's package is to be told (flash, partition, speed) */
export const settingsMissing: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const board = unsaid(site, controller, 'settings')
    if (board === null) return []
    return [
      {
        id: 'T02',
        severity: 'note',
        title: 'Board settings missing',
        where: whereOf(controller, 'bench'),
        what: `The profile of ${board} lists no board package settings.`,
        why: 'The flash steps leave them out; with a wrong partition or flash mode the board does not start.',
        fixes: [],
      },
    ]
  })

/** T03 programming entry for this board not in the flash steps */
export const programmingMissing: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const board = unsaid(site, controller, 'programming')
    if (board === null) return []
    return [
      {
        id: 'T03',
        severity: 'warning',
        title: 'Programming steps missing',
        where: whereOf(controller, 'bench'),
        what: `The profile of ${board} has no programming steps.`,
        why: 'The flash steps leave them out.',
        fixes: [],
      },
    ]
  })

export const toolChecks: readonly Check[] = [
  boardBehindSite,
  undriven,
  noNetworkInProgram,
  flashWear,
  settingsMissing,
  programmingMissing,
]
