/** The firmware's ports that a board can be built with, as a maker reads them. */
export const PORTS = {
  avr: 'a program of its own',
  'board-core': 'a sketch on its board core',
} as const
export type Port = keyof typeof PORTS
