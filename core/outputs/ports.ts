import type { Controller } from '../site'

/**
 * The port for a controller's board, beside the one for this machine: the 8-bit board has its own, all others have
 * cores.
 */
export const portOf = (controller: Controller): 'avr' | 'core' => (controller.board === 'eight-bit-5v' ? 'avr' : 'core')
