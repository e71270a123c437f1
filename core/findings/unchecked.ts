import { boardIn } from '../boards'
import { touchesMains } from '../electrics'
import { channelsOn, inputsOn, mainOf, relaysOn, type Controller, type Site } from '../site'

/** Something that no check has looked at, because nobody said what it needs: silence about it is no "all is well". */
export interface Unchecked {
  /** what is not checked, as a person says it: "contacts and suppression" */
  readonly what: string
  /** what nobody said */
  readonly why: string
  readonly controller?: string
  /** the step at which it is said */
  readonly step: 'bench' | 'ways'
}

const LISTED = 3
/** "Desk lamp, Shelf lamp and 4 more" */
function namesOf(things: readonly { readonly name: string }[]): string {
  const names = things.slice(0, LISTED).map(({ name }) => name)
  const more = things.length - names.length
  if (more > 0) return `${names.join(', ')} and ${more} more`
  return names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)!}` : names.join()
}

/** Of one controller: what its loads, supply, box and switches do not say. */
function ofController(site: Site, controller: Controller): Unchecked[] {
  const { id, name } = controller
  const channels = channelsOn(site, id)
  const dark = channels.filter((channel) => channel.load === null)
  const springs = inputsOn(site, id).filter((input) => input.bounceMs === null)
  const relays = relaysOn(site, id)
  // a box has its own supply and relays
  const boxed = Boolean(boardIn(site, controller.board)?.boxed)
  const rows: (Pick<Unchecked, 'what' | 'why'> | false)[] = [
    boardIn(site, controller.board) === undefined && {
      what: 'pins, start-up, supply and drive',
      why: `the board of ${name} has no profile`,
    },
    dark.length > 0 && {
      what: 'contacts, suppression, mains rows and the tests with load',
      why: `no load is entered for ${namesOf(dark)}`,
    },
    // a coprocessor is fed and boxed with its main board
    controller.supply === null &&
      mainOf(site, id) === undefined &&
      !boxed && { what: 'supply and reservoir', why: `no supply is entered for ${name}` },
    relays.length > 0 &&
      controller.module === null &&
      !boxed && { what: 'drive and contacts', why: `no relay module is entered for ${name}` },
    channels.length > 0 && controller.enclosure === null && { what: 'box fill', why: `no box is entered for ${name}` },
    springs.length > 0 && {
      what: 'settle times against contacts that bounce',
      why: `no bounce is measured for ${namesOf(springs)}`,
    },
  ]
  return rows.flatMap((row) => (row ? [{ ...row, controller: id, step: 'bench' as const }] : []))
}

/** Rooms with switches of controllers on mains, where nobody has looked what is in the wall already. */
function ofPlaces(site: Site): Unchecked[] {
  const rooms = site.rooms.filter(
    ({ id, wall }) =>
      wall === undefined &&
      site.inputs.some((input) => {
        const controller = site.controllers.find((one) => one.id === input.controller)
        return input.room === id && input.kind !== 'contact' && controller && touchesMains(site, controller)
      }),
  )
  if (rooms.length === 0) return []
  const why = `the existing wiring of ${namesOf(rooms)} is not entered`
  return [{ what: 'two-way switching, glow lamps and neutral', why, step: 'bench' }]
}

/** What has not been checked, and why. `noCredentials`: why nobody knows which are stored; null: it is known. */
export function uncheckedOf(site: Site, noCredentials: string | null): Unchecked[] {
  if (site.controllers.length === 0)
    return [{ what: 'anything', why: 'there is no controller yet: add one on the bench', step: 'bench' }]
  return [
    ...(site.channels.length > 0
      ? []
      : [{ what: 'ways and loads', why: 'there is no channel yet', step: 'ways' as const }]),
    ...site.controllers.flatMap((controller) => ofController(site, controller)),
    ...ofPlaces(site),
    ...(noCredentials === null ? [] : [{ what: 'credentials', why: noCredentials, step: 'ways' as const }]),
  ]
}
