import { boardIn, gpioSpots, pinName } from '../boards'
import { readPinOn } from '../pins'
import { roleName, rolesOf, type Controller, type Input, type Site } from '../site'
import { controllerPlace, type Check, type Finding, type Fix } from './finding'

/** What a board has of its own: a light that is to show the link. */

const dark = (id: string): Fix => ({
  label: 'No status light',
  change: (draft) => {
    delete draft.controllers.find((controller) => controller.id === id)!.statusLight
  },
})

function lightTrouble(site: Site, controller: Controller): Omit<Finding, 'where' | 'fixes'> | null {
  const board = boardIn(site, controller.board)
  if (!board) return null
  const light = board.own?.light
  if (!light || controller.link === 'none')
    return {
      id: 'P21',
      severity: 'warning',
      title: 'Status light not available',
      what: light
        ? `${controller.name} is set to show its link on the board’s light, and has no link.`
        : `${controller.name} is set to show its link on the board’s light; ${board.name} has no known light.`,
      why: 'A dark light would mean that the network is down, whether it is or not.',
    }
  const other = rolesOf(site, controller.id).find((role) => {
    const written = controller.pins[role.id]?.pin
    const reading = written === undefined ? undefined : readPinOn(site, controller, written)
    return reading?.kind === 'spot' && reading.spot.gpio === light.gpio
  })
  if (!other) return null
  const spot = gpioSpots(board).find(({ gpio }) => gpio === light.gpio)
  return {
    id: 'P20',
    severity: 'error',
    title: 'Status light pin used twice',
    what: `${spot ? pinName(spot) : `GPIO ${light.gpio}`} drives the status light and ${roleName(other)}.`,
    why: 'The light blinks while the board connects, and the other role with it.',
  }
}

/** P20 the status light's pin has another role; P21 a status light that can show nothing */
const statusLight: Check = (site) =>
  site.controllers.flatMap((controller) => {
    const trouble = controller.statusLight ? lightTrouble(site, controller) : null
    return trouble
      ? [{ ...trouble, where: { ...controllerPlace(controller), step: 'bench' }, fixes: [dark(controller.id)] }]
      : []
  })

const putOn = (input: Input, gpio: number): Fix => ({
  label: 'Move it to the button’s pin',
  change: (draft) => {
    const controller = draft.controllers.find(({ id }) => id === input.controller)!
    controller.pins[`in:${input.id}`] = { pin: `GPIO${gpio}`, locked: true }
  },
})
const ofItsOwn = (input: Input): Fix => ({
  label: 'Make it a separate switch',
  change: (draft) => {
    delete draft.inputs.find(({ id }) => id === input.id)!.ofBoard
  },
})

/** P22 an input that is to be the board's own button, and is not on its pin */
const ownButton: Check = (site) =>
  site.inputs.flatMap((input): Finding[] => {
    const controller = site.controllers.find(({ id }) => id === input.controller)
    const board = controller && boardIn(site, controller.board)
    if (!input.ofBoard || !controller || !board) return []
    const { button } = board.own ?? {}
    const role = `in:${input.id}`
    const written = controller.pins[role]?.pin
    const reading = written === undefined ? undefined : readPinOn(site, controller, written)
    if (button && (!reading || (reading.kind === 'spot' && reading.spot.gpio === button.gpio))) return []
    const { id, name } = input
    return [
      {
        id: 'P22',
        severity: 'error',
        title: 'Not the board’s button pin',
        where: { thing: 'input', id, name, controller: controller.id, role, step: 'bench' },
        what: button
          ? `${name} is set as the button ${button.label} of ${board.name}, but is on ${written}.`
          : `${name} is set as a button of the board; ${board.name} has no known button.`,
        why: 'It is left out of the wires, and nothing is connected where it is read.',
        fixes: [...(button ? [putOn(input, button.gpio)] : []), ofItsOwn(input)],
      },
    ]
  })

export const ownPartChecks: readonly Check[] = [statusLight, ownButton]
