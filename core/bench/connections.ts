import { boardIn, moduleIn, pinName } from '../boards'
import { channelsOn, controllerOf, inputsOn, loadOf, type Site } from '../site'
import { readPinOn } from './spots'

/** One wire: what is joined to what, and what to mind. */
export interface Connection {
  readonly from: string
  readonly to: string
  readonly note: string
  readonly mains: boolean
}

/** Text of a pin as assigned, or what is missing. */
export function assignedPin(site: Site, controllerId: string, role: string): string | null {
  const controller = controllerOf(site, controllerId)
  const choice = controller?.pins[role]
  if (!controller || !choice) return null
  const reading = readPinOn(site, controller, choice.pin)
  return reading.kind === 'spot' ? pinName(reading.spot) : choice.pin
}

/** The connection list of a controller, in the order in which it is wired: supply, relay inputs, switches, then (dead) mains. */
export function connectionsOf(site: Site, controllerId: string): Connection[] {
  const controller = controllerOf(site, controllerId)
  const board = controller && boardIn(site, controller.board)
  if (!controller || !board) return []
  const { module } = controller
  const logic = board.logicVolts === 5 ? '5V' : '3V3'
  const rows: Connection[] = []
  if (module) {
    const split = module.coilJumper === 'removed'
    rows.push({ from: 'board GND', to: 'module GND', note: 'common ground', mains: false })
    rows.push({ from: `board ${split ? logic : '5 V supply'}`, to: 'module VCC', note: split ? `logic side at ${board.logicVolts} V` : 'logic and coil side together', mains: false })
    rows.push({ from: `${module.coilVolts} V supply`, to: 'module coil supply', note: split ? 'coil-supply jumper removed' : module.coilJumper === 'fitted' ? 'coil-supply jumper fitted' : 'no jumper on this module', mains: false })
  }
  channelsOn(site, controller.id).forEach((channel, index) => {
    const pin = assignedPin(site, controller.id, `out:${channel.id}`)
    rows.push({ from: `board ${pin ?? '(no pin yet)'}`, to: module ? `module IN${index + 1}` : `relay driver of ${channel.name}`, note: `${channel.name}, ${channel.active} closes`, mains: false })
  })
  for (const input of inputsOn(site, controller.id)) {
    const pin = assignedPin(site, controller.id, `in:${input.id}`)
    const other = input.closedLevel === 'low' ? 'board GND' : `board ${logic}`
    const pull = input.pull === 'internal' ? "the board's own pull" : input.pull === 'fitted' ? 'fit a 10 kΩ pull resistor' : 'no pull: fit 10 kΩ'
    rows.push({ from: `board ${pin ?? '(no pin yet)'}`, to: `${input.name}, one side`, note: pull, mains: false })
    rows.push({ from: other, to: `${input.name}, other side`, note: '', mains: false })
  }
  for (const part of controller.parts) {
    const profile = moduleIn(site, 'part', part.profile)
    if (!profile) continue
    rows.push({ from: 'board GND', to: `${part.name} GND`, note: '', mains: false })
    rows.push({ from: profile.rail === 'logic' ? `board ${logic}` : profile.rail === '5V' ? 'board 5 V' : 'its own supply', to: `${part.name} supply`, note: profile.rail === 'own' ? 'common ground with the board' : '', mains: false })
    for (const signal of profile.signals) {
      rows.push({ from: `board ${assignedPin(site, controller.id, `part:${part.id}:${signal.id}`) ?? '(no pin yet)'}`, to: `${part.name} ${signal.id}`, note: signal.need.startsWith('serial') ? 'crossed: sends to receives' : '', mains: false })
    }
  }
  channelsOn(site, controller.id).forEach((channel, index) => {
    const load = loadOf(site, channel.load)
    if (!load) return
    const mains = load.supply === 'mains'
    const feed = mains ? (load.contact === 'line' ? 'line (L)' : 'neutral (N): not as it should be') : 'low-voltage supply +'
    rows.push({ from: feed, to: `relay ${index + 1} COM`, note: `${load.name}, ${load.watts} W`, mains })
    rows.push({ from: `relay ${index + 1} NO`, to: `${load.name} ${mains ? 'L terminal' : '+'}`, note: mains ? 'supply off and proved dead first' : '', mains })
    rows.push({ from: mains ? (load.contact === 'line' ? 'neutral (N)' : 'line (L)') : 'low-voltage supply −', to: `${load.name} ${mains ? 'N terminal' : '−'}`, note: mains ? 'protective earth as the load requires' : '', mains })
  })
  return rows
}
