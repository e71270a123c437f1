import { pinChoices, placeRole, pullChoice, type PinPlan } from '../../../core/bench'
import { boardIn, pinName } from '../../../core/boards'
import { WorkedTable } from '../../parts/WorkedTable'
import { roleName, type Controller, type Role, type Site } from '../../../core/site'
import { removeChannel, removeInput, removePart } from '../../../core/ways'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { ChannelFields } from './ChannelFields'
import { InputFields } from './InputFields'

function takeOut(draft: Site, controller: string, role: Role): void {
  if (role.kind === 'output') removeChannel(draft, role.channel.id)
  else if (role.kind === 'input') removeInput(draft, role.input.id)
  else removePart(draft, controller, role.part.id)
}

interface Props {
  readonly controller: Controller
  readonly role: Role
  readonly plan: PinPlan
  readonly onClose: () => void
}

/** One role: why its pin, where else it could be, and everything about the thing itself. */
export function RoleFields({ controller, role, plan, onClose }: Props) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const choices = pinChoices(site, controller.id, role.id)
  const board = boardIn(site, controller.board)
  const choice = controller.pins[role.id]
  const here = choices.find(({ spot }) => spot.label === choice?.pin)
  const wish = plan.kind === 'planned' ? plan.pins.find((pin) => pin.role === role.id) : undefined
  const lock = (locked: boolean) =>
    dispatch(
      edit(`${locked ? 'lock' : 'unlock'} ${roleName(role)}`, (draft) => {
        draft.controllers.find((c) => c.id === controller.id)!.pins[role.id]!.locked = locked
      }),
    )
  return (
    <section aria-label={roleName(role)} className="mt-4">
      <div className="rule-head flex items-baseline">
        <h2>{roleName(role)}</h2>
        <button type="button" className="press-quiet ml-auto" onClick={onClose}>
          close
        </button>
      </div>
      <div className="mt-2 grid grid-cols-[1fr_auto] items-end gap-3">
        <label>
          <span className="field-label">Pin</span>
          <select
            className="field font-mono"
            value={here?.spot.label ?? ''}
            onChange={(event) =>
              dispatch(
                edit(`${roleName(role)} to ${event.target.value}`, (draft) =>
                  placeRole(draft, controller.id, role.id, event.target.value),
                ),
              )
            }
          >
            {!here && <option value="">{choice ? `${choice.pin} (as written)` : 'no pin yet'}</option>}
            {choices.map(({ spot, possible, against, takenBy }) => (
              <option key={spot.gpio} value={spot.label} disabled={!possible}>
                {pinName(spot)}
                {takenBy ? ', taken: swap' : ''}
                {against[0] ? `, ${against[0]}` : ''}
              </option>
            ))}
          </select>
        </label>
        {choice && (
          <label className="flex min-h-7 items-center gap-1.5">
            <input
              type="checkbox"
              className="size-4 accent-(--ink)"
              checked={choice.locked}
              onChange={(event) => lock(event.target.checked)}
            />
            locked
          </label>
        )}
      </div>
      <p className="mt-1 text-note text-soft">
        {wish && wish.label === choice?.pin
          ? wish.reason
          : here
            ? `${pinName(here.spot)}: ${[...here.favour, ...here.against].join(', ') || 'nothing speaks against it'}${wish ? `. The plan would take ${wish.label}.` : ''}`
            : wish
              ? `The plan would take ${wish.reason}`
              : ''}
      </p>
      <div className="mt-3">
        {role.kind === 'output' && <ChannelFields channel={role.channel} />}
        {role.kind === 'input' && <InputFields input={role.input} />}
        {role.kind === 'input' && board && (
          <div className="mt-3">
            <WorkedTable
              caption="Pull, worked"
              rows={pullChoice(role.input.cableMetres, board.logicVolts, board.internalPullKiloohms.most).worked}
            />
          </div>
        )}
      </div>
      <button
        type="button"
        className="press-quiet mt-3 -ml-1.5 text-error"
        onClick={() => {
          dispatch(edit(`${roleName(role)} out`, (draft) => takeOut(draft, controller.id, role)))
          onClose()
        }}
      >
        Take {roleName(role)} out{role.kind === 'output' ? ', with its ways' : ''}
      </button>
    </section>
  )
}
