import { connectionsOf } from '../wiring'
import { credentialsNeeded } from '../services'
import { type Control, type Controller, type Site } from '../site'
import { sourceWords } from '../ways'
import { hasMains } from './cautions'
import type { OnBoard } from './boxLabel'

/** Why a board leaves its box. */
export type Leaving = 'died' | 'gone'

/** A step of the walk: what to do, with what helps to do it. */
export interface LeavingStep {
  readonly text: string
  /** what one press does for it; null: hands alone */
  readonly press: 'connections' | 'lockOut' | 'secrets' | 'tests' | 'pairing' | null
}

const step = (text: string, press: LeavingStep['press'] = null): LeavingStep => ({ text, press })

const pairedAt = (site: Site, { id }: Controller): string[] =>
  credentialsNeeded(site)
    .filter(({ pairs, controllers }) => pairs && controllers.includes(id))
    .map(({ owner, label }) => `${owner} (${label})`)

/** The board is U1 in every list (core/wiring). */
const onBoard = (terminal: string): boolean => /^U1\b/.test(terminal)

/** What a new board needs in the place of one that has died: the same tables, another password. */
function diedSteps(site: Site, controller: Controller, board: OnBoard): LeavingStep[] {
  const { name } = controller
  const wires = connectionsOf(site, controller.id).filter(({ from, to }) => onBoard(from) || onBoard(to)).length
  const paired = pairedAt(site, controller)
  return [
    step(
      hasMains(site, controller.id)
        ? 'Turn the supply of the box off, lock it off, and prove it dead with a meter. Mains work is for a licensed electrician where the law says so.'
        : 'Turn the supply of the box off.',
    ),
    step(`Unplug the dead board. Wire the new one by the same list: ${wires} wires end on it.`, 'connections'),
    step(
      'Lock the old board out: a new password for the broker. The next one to join under this name is the new board.',
      'lockOut',
    ),
    step(
      board
        ? `Flash build ${board.number} (tables ${board.hash}) with a new secrets.h: the old one holds the old password.`
        : `Flash the newest build of ${name} with a new secrets.h: the old one holds the old password.`,
      'secrets',
    ),
    ...(paired.length > 0 ? [step(`Pair it again at: ${paired.join('; ')}.`, 'pairing')] : []),
    step('Test what was rewired and joined again. Relays and loads were not touched.', 'tests'),
  ]
}

const resets = (site: Site, { id }: Controller): Control | undefined =>
  site.controls.find(
    (control) => control.kind === 'controller' && control.controller === id && control.action === 'reset',
  )

/** What must be deleted before a board is sold or given away. */
function goneSteps(site: Site, controller: Controller): LeavingStep[] {
  const reset = resets(site, controller)
  const owners = [
    ...new Set(
      credentialsNeeded(site)
        .filter(({ controllers }) => controllers.includes(controller.id))
        .map(({ owner }) => owner),
    ),
  ]
  return [
    step(
      hasMains(site, controller.id)
        ? 'Turn the supply of the box off, lock it off, and prove it dead with a meter. Disconnect it from the mains, or have it done.'
        : 'Turn the supply of the box off and disconnect it.',
    ),
    ...(reset
      ? [
          step(
            `On the bench, with its own supply: ${sourceWords(site, reset.source)}, held. It deletes the credentials that it was paired with.`,
          ),
        ]
      : []),
    step('Erase the whole flash of the board: the network and the passwords of secrets.h stand in it.'),
    step('Lock it out here: a new password for the broker, and its own credentials are deleted.', 'lockOut'),
    ...(owners.length > 0 ? [step(`Delete its device or entry at: ${owners.join(', ')}.`)] : []),
    step('Destroy its pairing label, and print the door card again.'),
  ]
}

/** The walk through a board's leaving, step by step. */
export const leavingSteps = (site: Site, controller: Controller, why: Leaving, board: OnBoard): LeavingStep[] =>
  why === 'died' ? diedSteps(site, controller, board) : goneSteps(site, controller)

/** Credentials that nobody but this controller uses: they go with it. */
export const ownCredentials = (site: Site, controller: Controller): string[] =>
  credentialsNeeded(site)
    .filter(({ controllers }) => controllers.length === 1 && controllers[0] === controller.id)
    .map(({ key }) => key)
