import { boardIn, modulesIn } from '../../../core/boards'
import { idFromName, loadOf, mainOf, newInput, roleName } from '../../../core/site'
import type { Controller, PartId, Role, Site } from '../../../core/site'
import { addSwitchFor } from '../../../core/ways'
import { FindingTag } from '../../parts/FindingTag'
import { NewChannel } from '../../parts/NewChannel'
import { edit } from '../../store/editing'
import { selectOpenFindings } from '../../store/findings'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../../store/store'

/** What the board works: each role with its pin and what is wrong with it. */
export function RoleList({ controller, roles }: { controller: Controller; roles: readonly Role[] }) {
  const main = useAppSelector((state) => mainOf(state.site.site!, controller.id))
  const empty = main
    ? `It drives nothing: it connects ${main.name} to the network. With a channel of its own it would be a ` +
      `controller by itself, and ${main.name} would lose the network.`
    : 'No channel yet. Name the first thing that it switches.'
  return (
    <section aria-label="Roles">
      <h2 className="rule-head flex items-baseline">
        Pins in use
        <RelayBudget controller={controller} roles={roles} />
      </h2>
      {roles.length === 0 && <p className="py-2 text-soft">{empty}</p>}
      <ul className="max-h-64 overflow-auto">
        {roles.map((role) => (
          <RoleLine key={role.id} controller={controller} role={role} />
        ))}
      </ul>
      <NewChannel fixed={controller.id} />
      <MoreOnBoard controller={controller} />
    </section>
  )
}

/** How many of the module's relays the outputs take. */
function RelayBudget({ controller, roles }: { controller: Controller; roles: readonly Role[] }) {
  const used = roles.filter(({ kind }) => kind === 'output').length
  if (!controller.module) return null
  const over = used > controller.module.ways
  return (
    <span className={`ml-auto font-mono ${over ? 'text-error' : 'font-normal text-soft'}`}>
      {over && '▲ '}
      {used} of {controller.module.ways} relays used
    </span>
  )
}

/** What a role is of, beside its name. */
function detailOf(site: Site, role: Role): string {
  if (role.kind === 'signal') return role.signal.need.replace('-', ' ')
  if (role.kind === 'input')
    return `${role.input.kind === 'momentary' ? 'push' : role.input.kind}, closes to ${role.input.closedLevel}`
  const load = loadOf(site, role.channel.load)
  return load ? `${load.name}, ${load.watts} W` : 'no load named'
}

function RoleLine({ controller, role }: { controller: Controller; role: Role }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const picked = useAppSelector((state) => state.screen.role) === role.id
  const own = useAppSelector(selectOpenFindings).filter(
    ({ where }) => where.controller === controller.id && where.role === role.id,
  )
  return (
    <li className="border-b border-hair">
      <button
        type="button"
        aria-pressed={picked}
        className={
          'flex w-full items-baseline gap-2 px-1 py-1 text-left hover:bg-panel aria-pressed:bg-panel ' +
          'aria-pressed:font-semibold'
        }
        onClick={() => dispatch(screenActions.rolePicked(picked ? null : role.id))}
      >
        <span className="w-12 shrink-0 font-mono text-note">{controller.pins[role.id]?.pin ?? '–'}</span>
        <span className="shrink-0">{roleName(role)}</span>
        <span className="min-w-0 truncate text-small text-soft">{detailOf(site, role)}</span>
        <span className="ml-auto flex shrink-0 gap-1">
          {own.map((finding) => (
            <FindingTag key={finding.id} id={finding.id} severity={finding.severity} />
          ))}
        </span>
      </button>
    </li>
  )
}

/** A switch on a board: for its first channel, or by itself. */
function addSwitch(draft: Site, controllerId: string, kind: 'momentary' | 'rocker' | 'contact'): void {
  const target = draft.controllers.find((candidate) => candidate.id === controllerId)!
  const channel = draft.channels.find((candidate) => candidate.controller === controllerId)
  if (kind === 'contact') draft.inputs.push(newInput(draft, 'Position contact', target, kind))
  else if (channel) addSwitchFor(draft, channel, kind, target)
  else draft.inputs.push(newInput(draft, `S${draft.inputs.length + 1}`, target, kind))
}

/** The board's own button as a push switch, on its pin. */
function addOwnButton(draft: Site, controllerId: string): void {
  const target = draft.controllers.find((candidate) => candidate.id === controllerId)!
  const button = boardIn(draft, target.board)?.own?.button
  if (!button) return
  const input = newInput(draft, `Button ${button.label}`, target, 'momentary', { closedLevel: button.pressed })
  draft.inputs.push({ ...input, ofBoard: true, cableMetres: 0 })
  target.pins[`in:${input.id}`] = { pin: `GPIO${button.gpio}`, locked: true }
}

function addPart(draft: Site, controllerId: string, profile: string, name: string): void {
  const target = draft.controllers.find((candidate) => candidate.id === controllerId)!
  const taken = target.parts.map((part) => part.id)
  target.parts.push({
    id: idFromName<PartId>(`x${target.parts.length + 1}`, taken),
    profile,
    name: name.split(',')[0]!,
  })
}

const SWITCHES = [
  ['momentary', 'push switch'],
  ['rocker', 'rocker'],
  ['contact', 'position contact'],
] as const

function PartChoice({ onPick }: { onPick: (id: string) => void }) {
  const site = useAppSelector((state) => state.site.site!)
  return (
    <label className="flex items-center gap-1.5 text-note">
      Add part
      <select className="field w-40" value="" onChange={(event) => onPick(event.target.value)}>
        <option value="">choose …</option>
        {partsIn(site).map((part) => (
          <option key={part.id} value={part.id}>
            {part.name}
          </option>
        ))}
      </select>
    </label>
  )
}

const partsIn = (site: Site) => modulesIn(site).filter((module) => module.kind === 'part')

function MoreOnBoard({ controller }: { controller: Controller }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site!)
  const onBoard = (what: string, change: (draft: Site) => void) =>
    dispatch(edit(`${what} on ${controller.name}`, change))
  const takePart = (id: string) => {
    const name = partsIn(site).find((part) => part.id === id)?.name
    if (name) onBoard(name, (draft) => addPart(draft, controller.id, id, name))
  }
  const own = boardIn(site, controller.board)?.own?.button
  const taken = site.inputs.some((input) => input.controller === controller.id && input.ofBoard)
  return (
    <div className="mt-1.5 -ml-1.5 flex flex-wrap items-center gap-x-1 whitespace-nowrap">
      {SWITCHES.map(([kind, words]) => (
        <button
          key={kind}
          type="button"
          className="press-quiet"
          onClick={() => onBoard(words, (draft) => addSwitch(draft, controller.id, kind))}
        >
          Add {words}
        </button>
      ))}
      {own && !taken && (
        <button
          type="button"
          className="press-quiet"
          onClick={() => onBoard('its own button', (draft) => addOwnButton(draft, controller.id))}
        >
          Use its button {own.label}
        </button>
      )}
      <PartChoice onPick={takePart} />
    </div>
  )
}
