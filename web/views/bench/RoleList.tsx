import { modulesIn } from '../../../core/boards'
import {
  mainOf,
  idFromName,
  loadOf,
  newInput,
  roleName,
  type Controller,
  type Part,
  type Role,
} from '../../../core/site'
import { addSwitchFor } from '../../../core/ways'
import { FindingTag } from '../../parts/FindingTag'
import { edit } from '../../store/editing'
import { selectOpenFindings } from '../../store/findings'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { NewChannel } from '../ways/NewChannel'

/** What the board works: each role with its pin and what is wrong with it. */
export function RoleList({ controller, roles }: { controller: Controller; roles: readonly Role[] }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const picked = useAppSelector((state) => state.screen.role)
  const findings = useAppSelector(selectOpenFindings)
  const addSwitch = (kind: 'momentary' | 'rocker') =>
    dispatch(
      edit(`${kind === 'momentary' ? 'push switch' : 'rocker'} on ${controller.name}`, (draft) => {
        const target = draft.controllers.find((candidate) => candidate.id === controller.id)!
        const channel = draft.channels.find((candidate) => candidate.controller === controller.id)
        if (channel) addSwitchFor(draft, channel, kind, target)
        else draft.inputs.push(newInput(draft, `S${draft.inputs.length + 1}`, target, kind))
      }),
    )
  const main = mainOf(site, controller.id)
  const parts = modulesIn(site).filter((module) => module.kind === 'part')
  const addPart = (profile: string) => {
    const name = parts.find((part) => part.id === profile)?.name
    if (!name) return
    dispatch(
      edit(`${name} on ${controller.name}`, (draft) => {
        const target = draft.controllers.find((candidate) => candidate.id === controller.id)!
        target.parts.push({
          id: idFromName<string>(
            `x${target.parts.length + 1}`,
            target.parts.map((part) => part.id),
          ) as Part['id'],
          profile,
          name: name.split(',')[0]!,
        })
      }),
    )
  }
  return (
    <section aria-label="Roles">
      <h2 className="rule-head">On this board</h2>
      {roles.length === 0 && (
        <p className="py-2 text-soft">
          {main
            ? `It drives nothing: it stands for ${main.name}. A channel of its own would make it a controller ` +
              `by itself, and ${main.name} would lose the network.`
            : 'Nothing yet. Name the first thing that it switches.'}
        </p>
      )}
      <ul className="max-h-64 overflow-auto">
        {roles.map((role) => {
          const own = findings.filter(
            (finding) => finding.where.controller === controller.id && finding.where.role === role.id,
          )
          const load = role.kind === 'output' ? loadOf(site, role.channel.load) : undefined
          return (
            <li key={role.id} className="border-b border-hair">
              <button
                type="button"
                aria-pressed={picked === role.id}
                className="flex w-full items-baseline gap-2 px-1 py-1 text-left hover:bg-panel aria-pressed:bg-panel aria-pressed:font-semibold"
                onClick={() => dispatch(screenActions.rolePicked(picked === role.id ? null : role.id))}
              >
                <span className="w-12 shrink-0 font-mono text-note">{controller.pins[role.id]?.pin ?? '–'}</span>
                <span className="shrink-0">{roleName(role)}</span>
                <span className="min-w-0 truncate text-small text-soft">
                  {role.kind === 'output'
                    ? load
                      ? `${load.name}, ${load.watts} W`
                      : 'no load named'
                    : role.kind === 'input'
                      ? `${role.input.kind === 'momentary' ? 'push' : 'rocker'}, closes to ${role.input.closedLevel}`
                      : role.signal.need.replace('-', ' ')}
                </span>
                <span className="ml-auto flex shrink-0 gap-1">
                  {own.map((finding) => (
                    <FindingTag key={finding.id} id={finding.id} severity={finding.severity} />
                  ))}
                </span>
              </button>
            </li>
          )
        })}
      </ul>
      <NewChannel fixed={controller.id} />
      <div className="mt-1.5 flex flex-wrap items-center gap-x-1 whitespace-nowrap">
        <button type="button" className="press-quiet -ml-1.5" onClick={() => addSwitch('momentary')}>
          add a push switch
        </button>
        <button type="button" className="press-quiet" onClick={() => addSwitch('rocker')}>
          add a rocker
        </button>
        <label className="ml-auto flex items-center gap-1.5 text-note">
          add a part
          <select className="field w-40" value="" onChange={(event) => addPart(event.target.value)}>
            <option value="">choose …</option>
            {parts.map((part) => (
              <option key={part.id} value={part.id}>
                {part.name}
              </option>
            ))}
          </select>
        </label>
      </div>
    </section>
  )
}
