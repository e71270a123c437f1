import { pinChoices, placeRole, type PinPlan } from '../../../core/pins'
import { pullChoice } from '../../../core/electrics'
import { boardIn, pinName } from '../../../core/boards'
import { roleName, type Controller, type Input, type Role, type Site } from '../../../core/site'
import { removeChannel, removeInput, removePart } from '../../../core/ways'
import { CalculationTable } from '../../parts/CalculationTable'
import { edit } from '../../store/editing'
import { takeOut } from '../../store/takeOut'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { ChannelFields } from './ChannelFields'
import { InputFields } from './InputFields'
import { PartFields } from './PartFields'

function removeRole(draft: Site, controller: string, role: Role): void {
  if (role.kind === 'output') removeChannel(draft, role.channel.id)
  else if (role.kind === 'input') removeInput(draft, role.input.id)
  else removePart(draft, controller, role.part.id)
}

interface Props {
  readonly controller: Controller
  readonly role: Role
  readonly plan: PinPlan
}

/** One role: why its pin, where else it could be, and everything about the thing itself. */
export function RoleFields({ controller, role, plan, onClose }: Props & { onClose: () => void }) {
  const dispatch = useAppDispatch()
  const name = roleName(role)
  const out = () => {
    dispatch(takeOut(name, (draft) => removeRole(draft, controller.id, role)))
    onClose()
  }
  return (
    <section aria-label={name} className="mt-4">
      <div className="rule-head flex items-baseline">
        <h2>{name}</h2>
        <button type="button" className="press-quiet ml-auto" onClick={onClose}>
          close
        </button>
      </div>
      <PinOfRole controller={controller} role={role} plan={plan} />
      <div className="mt-3">
        {role.kind === 'output' && <ChannelFields channel={role.channel} />}
        {role.kind === 'signal' && <PartFields controller={controller.id} part={role.part} />}
        {role.kind === 'input' && <InputFields input={role.input} />}
        {role.kind === 'input' && <PullWorked controller={controller} input={role.input} />}
      </div>
      <button type="button" className="press-quiet mt-3 -ml-1.5 text-error" onClick={out}>
        Delete {name}
        {role.kind === 'output' ? ' and its ways' : ''}
      </button>
    </section>
  )
}

function PullWorked({ controller, input }: { controller: Controller; input: Input }) {
  const board = useAppSelector((state) => boardIn(state.site.site!, controller.board))
  if (!board) return null
  const { calculations } = pullChoice(input.cableMetres, board.logicVolts, board.internalPullKiloohms.most)
  return (
    <div className="mt-3">
      <CalculationTable caption="Pull: calculation" rows={calculations} />
    </div>
  )
}

type Choice = ReturnType<typeof pinChoices>[number]
type Wish = Extract<PinPlan, { kind: 'planned' }>['pins'][number] | undefined

/** Why the pin is as it is, and what the plan would take. */
function whyThisPin(written: string | undefined, here: Choice | undefined, wish: Wish): string {
  if (wish && wish.label === written) return wish.reason
  if (!here) return wish ? `The plan suggests ${wish.reason}` : ''
  const speaks = [...here.favour, ...here.against].join(', ') || 'no objection'
  return `${pinName(here.spot)}: ${speaks}${wish ? `. The plan suggests ${wish.label}.` : ''}`
}

/** A pin as it is offered: taken by whom, and what speaks against it first. */
const optionWords = ({ spot, against, takenBy }: Choice): string =>
  [pinName(spot), ...(takenBy ? ['taken: swap'] : []), ...against.slice(0, 1)].join(', ')

function PinOfRole({ controller, role, plan }: Props) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const choices = pinChoices(site, controller.id, role.id)
  const choice = controller.pins[role.id]
  const here = choices.find(({ spot }) => spot.label === choice?.pin)
  const wish = plan.kind === 'planned' ? plan.pins.find((pin) => pin.role === role.id) : undefined
  const put = (pin: string) =>
    dispatch(edit(`${roleName(role)} to ${pin}`, (draft) => placeRole(draft, controller.id, role.id, pin)))
  return (
    <>
      <div className="mt-2 grid grid-cols-[1fr_auto] items-end gap-3">
        <label>
          <span className="field-label">Pin</span>
          <select
            className="field font-mono"
            value={here?.spot.label ?? ''}
            onChange={(event) => put(event.target.value)}
          >
            {!here && <option value="">{choice ? `${choice.pin} (as written)` : 'no pin yet'}</option>}
            {choices.map((one) => (
              <option key={one.spot.gpio} value={one.spot.label} disabled={!one.possible}>
                {optionWords(one)}
              </option>
            ))}
          </select>
        </label>
        {choice && <LockTick controller={controller} role={role} locked={choice.locked} />}
      </div>
      <p className="mt-1 text-note text-soft">{whyThisPin(choice?.pin, here, wish)}</p>
    </>
  )
}

function LockTick({ controller, role, locked }: { controller: Controller; role: Role; locked: boolean }) {
  const dispatch = useAppDispatch()
  const lock = (on: boolean) =>
    dispatch(
      edit(`${on ? 'lock' : 'unlock'} ${roleName(role)}`, (draft) => {
        draft.controllers.find((c) => c.id === controller.id)!.pins[role.id]!.locked = on
      }),
    )
  return (
    <label className="flex min-h-7 items-center gap-1.5">
      <input
        type="checkbox"
        className="size-4 accent-(--ink)"
        checked={locked}
        onChange={(event) => lock(event.target.checked)}
      />
      locked
    </label>
  )
}
