import type { Input } from '../site'
import { tell } from './boards'
import { track, type HouseState } from './house'

/** From a hand on a switch to the level at a pin: switch and wire stand between, and each can fail. */

const allContacts = (input: Input): number => (1 << (input.kind === 'selector' ? input.bits : 1)) - 1

/** The code of closed contacts that the controller sees. */
function codeSeen({ held, faults, stuckAt }: HouseState, input: Input): number {
  const all = allContacts(input)
  const atSwitch = faults.get(`switch:${input.id}`)
  const code = atSwitch === 'gone' ? 0 : (stuckAt.get(input.id) ?? held[input.id] ?? 0)
  const wire = faults.get(`wire:${input.id}`)
  if (wire === 'gone') return 0
  if (wire === 'stuck') return all
  return wire === 'inverted' ? code ^ all : code
}

/** Works out anew what a controller sees of an input, and tells it the levels that have changed. */
export function settleInput(house: HouseState, input: Input, cause: number | null): void {
  const before = house.closed[input.id] ?? 0
  const code = codeSeen(house, input)
  if (before === code) return
  house.closed[input.id] = code
  track(house, { t: house.now, lane: `input:${input.id}`, value: code, cause })
  const controller = house.controllers.find(({ id }) => id === input.controller)!
  const index = controller.image.inputs.findIndex(({ id }) => id === input.id)
  const bits = controller.image.inputs[index]!.gpios.map((_, bit) => bit).filter((bit) => (before ^ code) & (1 << bit))
  const levelOf = (bit: number): 0 | 1 => (((code & (1 << bit)) !== 0) === (input.closedLevel === 'high') ? 1 : 0)
  tell(house, controller, ...bits.map((bit) => ({ kind: 'level' as const, input: index, bit, level: levelOf(bit) })))
}
