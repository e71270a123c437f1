import type { Input } from '../../../core/site'
import { setInputKind } from '../../../core/ways'
import { ChoiceField, NumberField, TextField } from '../../parts/fields'
import { edit } from '../../store/editing'
import { useAppDispatch } from '../../store/store'

/** A switch as it is wired to the board. */
export function InputFields({ input }: { input: Input }) {
  const dispatch = useAppDispatch()
  const change = (label: string, mutate: (input: Input) => void) =>
    dispatch(edit(`${input.name}: ${label}`, (draft) => mutate(draft.inputs.find((i) => i.id === input.id)!)))
  return (
    <div className="grid grid-cols-3 gap-2">
      <TextField
        label="Name"
        value={input.name}
        check={(text) => (text.trim() ? null : 'a name is needed')}
        onKeep={(name) =>
          change('name', (i) => {
            i.name = name
          })
        }
      />
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
      <ChoiceField
        label="Closes to"
        value={input.closedLevel}
        choices={[
          ['low', 'ground (low)'],
          ['high', 'supply (high)'],
        ]}
        onKeep={(level) =>
          change('closed level', (i) => {
            i.closedLevel = level
          })
        }
      />
      <ChoiceField
        label="Pull"
        value={input.pull}
        choices={[
          ['internal', "board's own"],
          ['fitted', 'resistor fitted'],
          ['none', 'none'],
        ]}
        onKeep={(pull) =>
          change('pull', (i) => {
            i.pull = pull
          })
        }
      />
      <ChoiceField
        label="Read as"
        value={input.sense}
        choices={[
          ['digital', 'digital'],
          ['analogue', 'analogue, at half'],
        ]}
        onKeep={(sense) =>
          change('reading', (i) => {
            i.sense = sense
          })
        }
      />
      <ChoiceField
        label="Contact fed with"
        value={String(input.volts) as '3.3' | '5'}
        choices={[
          ['3.3', '3.3 V'],
          ['5', '5 V'],
        ]}
        onKeep={(volts) =>
          change('feed', (i) => {
            i.volts = volts === '5' ? 5 : 3.3
          })
        }
      />
      <NumberField
        label="Lead"
        unit="m"
        value={Math.round(input.cableMetres)}
        least={0}
        most={200}
        onKeep={(metres) =>
          change('lead', (i) => {
            i.cableMetres = metres
          })
        }
      />
      <TextField
        mono
        label="Bounce seen"
        unit="ms"
        value={input.bounceMs === null ? '' : String(input.bounceMs)}
        check={(text) => (/^(\d{1,3}(\.\d+)?)?$/.test(text.trim()) ? null : 'ms, or nothing')}
        onKeep={(text) =>
          change('bounce', (i) => {
            i.bounceMs = text.trim() === '' ? null : Number(text)
          })
        }
      />
      <NumberField
        label="Settle time"
        unit="ms"
        value={input.settleMs}
        least={0}
        most={1000}
        onKeep={(ms) =>
          change('settle time', (i) => {
            i.settleMs = ms
          })
        }
      />
    </div>
  )
}
