import { boardIn, type Port } from '../boards'
import type { Controller, Site } from '../site'
import { hasNetwork, noNetworkWhy } from '../wires'

/**
 * The port for a controller's board, beside the one for this machine; a board that nobody knows gets that for cores.
 */
export const portOf = (site: Site, controller: Controller): Port =>
  boardIn(site, controller.board)?.port ?? 'board-core'

/** Is a network planned for a controller whose program has none? The main board of a pair plans none of its own. */
export const lacksNetwork = (site: Site, controller: Controller): boolean =>
  controller.link !== 'none' && !hasNetwork(site, controller)

/** What every sheet of such a controller says, in the same words. */
export const lacksNetworkLine = (site: Site, controller: Controller): string =>
  `The program of this board has no network: ${noNetworkWhy(site, controller)}. Points, entities and spoken names do ` +
  'nothing here; switches, remote, rules and the serial link work.'
