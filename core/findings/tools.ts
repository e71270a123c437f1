import { boardIn } from '../boards'
import { tablesOf } from '../image'
import type { Check, Finding } from './finding'

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
        where: {
          thing: 'controller',
          id: controller.id,
          name: controller.name,
          controller: controller.id,
          step: 'build',
        },
        what: `The board of ${controller.name} runs tables ${flashed.hash}; the site now gives ${hash}.`,
        why: 'What you see here is not what the board does until it is flashed again.',
        fixes: [],
      },
    ]
  })

export const toolChecks: readonly Check[] = [boardBehindSite]
