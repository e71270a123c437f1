import { kindOf, offeredActions, understands } from '../../../core/site'
import type {
  Channel,
  ChannelAction,
  Gesture,
  GestureBinding,
  Input,
  MomentaryInput,
  WallWay,
} from '../../../core/site'
import { furtherBinding, usualBindings } from '../../../core/ways'
import { Fields, fieldsOf } from '../../parts/form'
import { useAppSelector } from '../../store/store'
import { useChange, withId, type Change } from '../../store/useChange'
import { INPUT_NAME, INPUT_PULL, INPUT_SETTLE_MS, InputKindField, useInputChange } from '../bench/InputFields'
import { ChoiceField } from '../../parts/fields'
import { SelectorTable } from './SelectorTable'

const GESTURES: Record<Input['kind'], readonly (readonly [Gesture, string])[]> = {
  momentary: [
    ['press', 'press'],
    ['release', 'release'],
    ['hold', 'hold'],
  ],
  rocker: [
    ['flip', 'either flip'],
    ['follow', 'level'],
  ],
  selector: [['select', 'detent']],
  contact: [],
}

/** What a gesture can do to a channel; a level is set by a detent only. */
const actionsFor = (channel: Channel): readonly (readonly [ChannelAction, string])[] =>
  offeredActions(channel)
    .filter(({ action }) => action !== 'level')
    .map(({ action, words }) => [action, words])

const SETTLING = fieldsOf<Input>().choice(
  'A press counts',
  'settle',
  [
    ['settle', 'when settled'],
    ['eager', 'at first edge'],
  ],
  { what: 'settling' },
)
const HOLD = fieldsOf<MomentaryInput>().number('Hold after', 'holdMs', {
  what: 'hold time',
  unit: 'ms',
  least: 200,
  most: 10_000,
})

/** The switch behind a way by the wall, and what its gestures do. */
export function WallFields({ way, channel }: { way: WallWay; channel: Channel }) {
  const site = useAppSelector((state) => state.site.site)!
  const input = withId(site.inputs, way.input)!
  const change = useInputChange(input)
  const changeWay = useChange(input.name, (draft) => {
    const target = withId(draft.ways, way.id)
    return target?.kind === 'wall' ? target : undefined
  })
  const held = input.kind === 'momentary' && way.bindings.some(({ gesture }) => gesture === 'hold')
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-2 gap-2">
        <Fields rows={[INPUT_NAME]} of={input} change={change} />
        <InputKindField input={input} />
        <OtherSwitch way={way} input={input} channel={channel} change={changeWay} />
        <Fields rows={[INPUT_PULL, SETTLING, INPUT_SETTLE_MS]} of={input} change={change} />
        {held && <Fields rows={[HOLD]} of={input} change={change as Change<MomentaryInput>} />}
      </div>
      {input.kind === 'selector' && <SelectorTable input={input} />}
      <Bindings way={way} input={input} channel={channel} change={changeWay} />
    </div>
  )
}

interface Parts {
  readonly way: WallWay
  readonly input: Input
  readonly channel: Channel
  readonly change: Change<WallWay>
}

function Bindings(parts: Parts) {
  const { way, input, channel, change } = parts
  return (
    <fieldset>
      <legend className="field-label">Gesture and what it does</legend>
      {way.bindings.map((binding, at) => (
        <BindingLine key={at} at={at} binding={binding} {...parts} />
      ))}
      {way.bindings.length < 6 && input.kind !== 'selector' && (
        <button
          type="button"
          className="press-quiet -ml-1.5"
          onClick={() => change('gesture', (target) => target.bindings.push(furtherBinding(input.kind, channel)))}
        >
          Add gesture
        </button>
      )}
    </fieldset>
  )
}

/** The same way by another switch of the controller. */
function OtherSwitch({ way, input, channel, change }: Parts) {
  const inputs = useAppSelector((state) => state.site.site!.inputs)
  const same = inputs.filter((one) => one.controller === input.controller && one.kind !== 'contact')
  if (same.length < 2) return null
  const take = (id: string) =>
    change('other switch', (target) => {
      target.input = id as WallWay['input']
      target.bindings = usualBindings(withId(same, id)!.kind, channel)
    })
  return (
    <ChoiceField
      label="Worked by"
      value={way.input as string}
      choices={same.map((one) => [one.id as string, one.name] as const)}
      onKeep={take}
    />
  )
}

/** A gesture that goes with one action only takes that, any other keeps what it had. */
function withGesture(binding: GestureBinding, gesture: Gesture, channel: Channel): GestureBinding {
  if (gesture === 'follow') return { gesture, action: 'follow' }
  if (gesture === 'select') return { gesture, action: 'level' }
  const tied = binding.action === 'follow' || binding.action === 'level'
  return { gesture, action: tied ? kindOf(channel).usual.press : binding.action }
}

/** What is chosen now stands among the choices, too, and says what becomes of it. */
const withPresent = <V extends string>(choices: readonly (readonly [V, string])[], present: V, words: string) =>
  choices.some(([one]) => one === present) ? choices : [...choices, [present, words] as const]

const TIED: Partial<Record<Gesture, string>> = { follow: 'closed is on', select: 'sets the level' }

function BindingLine({ at, binding, way, input, channel, change }: Parts & { at: number; binding: GestureBinding }) {
  const gestures = withPresent(GESTURES[input.kind], binding.gesture, `${binding.gesture} (never happens)`)
  const does = understands(channel, binding.action) ? binding.action : `${binding.action} (does nothing)`
  const actions = withPresent(actionsFor(channel), binding.action, does)
  const set = (what: string, next: GestureBinding) =>
    change(what, (target) => {
      target.bindings[at] = next
    })
  const tied = TIED[binding.gesture]
  return (
    <div className="mt-1 flex items-center gap-1.5">
      <Select
        label={`Gesture ${at + 1}`}
        value={binding.gesture}
        choices={gestures}
        onPick={(gesture) => set('gesture', withGesture(binding, gesture, channel))}
      />
      {tied ? (
        <span className="field border-transparent bg-transparent">{tied}</span>
      ) : (
        <Select
          label={`Action ${at + 1}`}
          value={binding.action}
          choices={actions}
          onPick={(action) => set('action', { ...binding, action })}
        />
      )}
      <button
        type="button"
        className="press-quiet"
        disabled={way.bindings.length === 1}
        aria-label={`Delete gesture ${at + 1}`}
        onClick={() => change('delete gesture', (target) => target.bindings.splice(at, 1))}
      >
        Delete
      </button>
    </div>
  )
}

interface SelectProps<V extends string> {
  readonly label: string
  readonly value: V
  readonly choices: readonly (readonly [V, string])[]
  readonly onPick: (value: V) => void
}

function Select<V extends string>({ label, value, choices, onPick }: SelectProps<V>) {
  return (
    <select aria-label={label} className="field" value={value} onChange={(event) => onPick(event.target.value as V)}>
      {choices.map(([choice, name]) => (
        <option key={choice} value={choice}>
          {name}
        </option>
      ))}
    </select>
  )
}
