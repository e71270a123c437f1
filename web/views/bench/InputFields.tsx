import type { Input } from '../../../core/site'
import { setInputKind } from '../../../core/ways'
import { Fields, fieldsOf, needsName } from '../../parts/form'
import { edit } from '../../store/editing'
import { useAppDispatch } from '../../store/store'
import { useChange, withId, type Change } from '../../store/useChange'
import { ChoiceField } from '../../parts/fields'
import { MeasuredBounce } from './MeasuredBounce'

const PULLS = [
  ['internal', "board's own"],
  ['fitted', 'resistor fitted'],
  ['none', 'none'],
] as const

const field = fieldsOf<Input>()
export const INPUT_NAME = field.text('Name', 'name', { check: needsName })
export const INPUT_PULL = field.choice('Pull', 'pull', PULLS)
export const INPUT_SETTLE_MS = field.number('Settle time', 'settleMs', { unit: 'ms', least: 0, most: 1000 })

const WIRED = [
  field.choice(
    'Closes to',
    'closedLevel',
    [
      ['low', 'ground (low)'],
      ['high', 'supply (high)'],
    ],
    { what: 'closed level' },
  ),
  INPUT_PULL,
  field.choice(
    'Read as',
    'sense',
    [
      ['digital', 'digital'],
      ['analogue', 'analogue, at half'],
    ],
    { what: 'reading' },
  ),
  field.choice(
    'Contact voltage',
    {
      read: (input) => String(input.volts) as '3.3' | '5',
      write: (input, volts) => {
        input.volts = volts === '5' ? 5 : 3.3
      },
    },
    [
      ['3.3', '3.3 V'],
      ['5', '5 V'],
    ],
    { what: 'feed' },
  ),
  field.number(
    'Cable length',
    {
      read: (input) => Math.round(input.cableMetres),
      write: (input, metres) => {
        input.cableMetres = metres
      },
    },
    { unit: 'm', least: 0, most: 200 },
  ),
  field.text(
    'Measured bounce',
    {
      read: (input) => (input.bounceMs === null ? '' : String(input.bounceMs)),
      write: (input, text) => {
        input.bounceMs = text.trim() === '' ? null : Number(text)
      },
    },
    {
      what: 'bounce',
      mono: true,
      unit: 'ms',
      check: (text) => (/^(\d{1,3}(\.\d+)?)?$/.test(text.trim()) ? null : 'a number of ms, or empty'),
    },
  ),
  INPUT_SETTLE_MS,
]

export const useInputChange = (input: Input): Change<Input> =>
  useChange(input.name, (draft) => withId(draft.inputs, input.id))

/** A push switch, a rocker, a selector: another kind has other gestures, and may need other pins. */
export function InputKindField({ input }: { input: Input }) {
  const dispatch = useAppDispatch()
  return (
    <ChoiceField
      label="Kind"
      value={input.kind}
      choices={[
        ['momentary', 'push'],
        ['rocker', 'rocker'],
        ['selector', 'selector'],
      ]}
      onKeep={(kind) => dispatch(edit(`${input.name}: ${kind}`, (draft) => setInputKind(draft, input.id, kind)))}
    />
  )
}

/** A switch as it is wired to the board. */
export function InputFields({ input }: { input: Input }) {
  const change = useInputChange(input)
  return (
    <div className="grid grid-cols-2 @md:grid-cols-3 gap-2">
      <Fields rows={[INPUT_NAME]} of={input} change={change} />
      <InputKindField input={input} />
      <Fields rows={WIRED} of={input} change={change} />
      <MeasuredBounce input={input} />
    </div>
  )
}
