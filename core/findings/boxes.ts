import { boardIn, pinName, reaches, type BoardProfile } from '../boards'
import { readPinOn, replanRoles } from '../pins'
import { channelsOn, loadOf, outputRoles, roleName, rolesOf, type Controller, type Site } from '../site'
import { controllerPlace, type Check, type Finding, type Where } from './finding'

/** Boards that come in a box with their relays: what is wired inside is fixed, and nothing of it hangs outside. */

interface Box {
  readonly controller: Controller
  readonly board: BoardProfile
  readonly boxed: NonNullable<BoardProfile['boxed']>
}

const boxes = (site: Site): Box[] =>
  site.controllers.flatMap((controller) => {
    const board = boardIn(site, controller.board)
    return board?.boxed ? [{ controller, board, boxed: board.boxed }] : []
  })

const place = (controller: Controller): Where => ({ ...controllerPlace(controller), step: 'bench' })

/** Takes the module off, and lets every channel close on what pulls the box's own relays in. */
const asTheBoxIs =
  ({ controller, boxed }: Box) =>
  (draft: Site): void => {
    draft.controllers.find((c) => c.id === controller.id)!.module = null
    for (const channel of draft.channels)
      if (channel.controller === controller.id) channel.active = boxed.active ?? 'high'
  }

/** D09 a relay module beside a box that has its own relays, or channels that close on the wrong level */
export const boxHasItsRelays: Check = (site) =>
  boxes(site).flatMap((box): Finding[] => {
    const { controller, board, boxed } = box
    const level = boxed.active ?? 'high'
    const wrong = channelsOn(site, controller.id).filter(({ active }) => active !== level)
    if (!controller.module && wrong.length === 0) return []
    return [
      {
        id: 'D09',
        severity: 'danger',
        title: controller.module ? 'Module beside a boxed board' : 'Wrong active level',
        where: place(controller),
        what:
          (controller.module ? `A relay module is entered beside the ${board.name}, which has its own relays. ` : '') +
          (wrong.length > 0
            ? `${wrong.map(({ name }) => name).join(', ')} ${wrong.length === 1 ? 'closes' : 'close'} on ${wrong[0]!.active}; ` +
              `its relays pull in on ${level}.`
            : `Its relays pull in on ${level}.`),
        why: 'On and off are swapped: the loads are live at rest, and the sheets name terminals that do not exist.',
        fixes: [{ label: 'Use its own relays', change: asTheBoxIs(box) }],
      },
    ]
  })

/** P18 a role on a pin of a box that leads nowhere, and relays that no pin works */
export const leadsNowhere: Check = (site) =>
  boxes(site).flatMap(({ controller, board, boxed }): Finding[] => {
    const outputs = channelsOn(site, controller.id).flatMap((channel) => outputRoles(channel))
    if (boxed.relaysBy === 'serial' && outputs.length > 0 && boxed.frames && controller.serialLog)
      return [logSpeaksToRelays(controller, board.name)]
    if (boxed.relaysBy === 'serial' && outputs.length > 0 && !boxed.frames)
      return [
        {
          id: 'P18',
          severity: 'error',
          title: 'Relay frames unknown',
          where: place(controller),
          what: `The relays of the ${board.name} are on no pin: a second chip drives them over the serial line.`,
          why:
            'Without that chip’s frames in the profile the screens work and no relay moves. ' +
            `Check which revision it is: ${(boxed.marks ?? []).join('; ')}. Then read the frames off its line, or off its ` +
            'maker’s sheet, and write them into the profile (bench, Profiles).',
          fixes: [],
        },
      ]
    return rolesOf(site, controller.id).flatMap((role): Finding[] => {
      if (role.kind === 'signal') return []
      const written = controller.pins[role.id]?.pin
      const reading = written === undefined ? undefined : readPinOn(site, controller, written)
      if (reading?.kind !== 'spot' || reaches(reading.spot, role.kind)) return []
      return [
        {
          id: 'P18',
          severity: 'error',
          title: 'Pin is not wired in this box',
          where: { ...place(controller), role: role.id },
          what: `${roleName(role)} is on ${pinName(reading.spot)}, which leads to no ${role.kind === 'output' ? 'relay' : 'switch terminal'} of the ${board.name}.`,
          why: 'The wiring inside the box is fixed: nothing happens, or only its light and log react.',
          fixes: [{ label: 'Plan this pin again', change: (draft) => replanRoles(draft, controller.id, [role.id]) }],
        },
      ]
    })
  })

/** P23 a log on the line that tells the relays */
const logSpeaksToRelays = (controller: Controller, board: string): Finding => ({
  id: 'P23',
  severity: 'error',
  title: 'Serial log drives the relays',
  where: place(controller),
  what: `${controller.name} writes its log to the serial line that drives the relays of the ${board}.`,
  why: 'The second chip reads the log as frames: relays move at random, or not at all.',
  fixes: [
    {
      label: 'Turn the serial log off',
      change: (draft) => {
        draft.controllers.find(({ id }) => id === controller.id)!.serialLog = false
      },
    },
  ],
})

/** L21 a load that is not for mains on a box that gives line at its outputs */
export const boxGivesLine: Check = (site) =>
  boxes(site).flatMap(({ controller, board }) =>
    channelsOn(site, controller.id).flatMap((channel): Finding[] => {
      const load = loadOf(site, channel.load)
      if (!load || load.supply === 'mains') return []
      return [
        {
          id: 'L21',
          severity: 'danger',
          title: 'Output is at mains',
          where: { ...place(controller), channel: channel.id, role: outputRoles(channel)[0]! },
          what:
            `${load.name} is ${load.supply === 'dry' ? 'a button input' : `for ${load.volts} V`}; the outputs of the ` +
            `${board.name} give ${site.mains.volts} V when they close. It is left out of the lists.`,
          why: 'Mains would reach a low-voltage circuit, and anyone who touches it.',
          fixes: [],
        },
      ]
    }),
  )

export const boxChecks: readonly Check[] = [boxHasItsRelays, leadsNowhere, boxGivesLine]
