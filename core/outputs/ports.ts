import { boardIn, type Port } from '../boards'
import type { Controller, Site } from '../site'

/**
 * The port for a controller's board, beside the one for this machine; a board that nobody knows gets that for cores.
 */
export const portOf = (site: Site, controller: Controller): Port =>
  boardIn(site, controller.board)?.port ?? 'board-core'
