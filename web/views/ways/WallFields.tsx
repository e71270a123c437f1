import type { Channel, ChannelAction, Gesture, Input, SelectorInput, WallWay } from '../../../core/site'
import { setInputKind, usualBindings } from '../../../core/ways'
import { ChoiceField, NumberField, TextField } from '../../parts/fields'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'

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
/** What a gesture can do to each kind of channel. */
function actionsOf(channel: Channel): readonly (readonly [ChannelAction, string])[] {
  switch (channel.kind) {
    case 'pulsed':
      return [
        ['pulse', 'pulse'],
        ...(channel.contact
          ? ([
              ['open', 'open'],
              ['close', 'close'],
            ] as const)
          : []),
      ]
    case 'paired':
      return [
        ['toggle', 'by turns'],
        ['a', channel.labels[0]],
        ['b', channel.labels[1]],
        ['stop', 'stop'],
      ]
    default:
      return [
        ['toggle', 'toggle'],
        ['on', 'on'],
        ['off', 'off'],
        ['up', 'up'],
        ['down', 'down'],
      ]
  }
}

export function WallFields({ way, channel }: { way: WallWay; channel: Channel }) {
  const actions = actionsOf(channel)
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const input = site.inputs.find((candidate) => candidate.id === way.input)!
  const same = site.inputs.filter(
    (candidate) => candidate.controller === input.controller && candidate.kind !== 'contact',
  )
  const change = (label: string, mutate: (input: Input) => void) =>
    dispatch(edit(`${input.name}: ${label}`, (draft) => mutate(draft.inputs.find((i) => i.id === input.id)!)))
  const changeWay = (label: string, mutate: (way: WallWay) => void) =>
    dispatch(
      edit(`${input.name}: ${label}`, (draft) => {
        const target = draft.ways.find((candidate) => candidate.id === way.id)
        if (target?.kind === 'wall') mutate(target)
      }),
    )
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-2 gap-2">
        <TextField
          label="Switch"
          value={input.name}
          onKeep={(name) =>
            change('name', (i) => {
              i.name = name
            })
          }
          check={(text) => (text.trim() ? null : 'a name is needed')}
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
        {same.length > 1 && (
          <ChoiceField
            label="Worked by"
            value={way.input as string}
            choices={same.map((i) => [i.id as string, i.name] as const)}
            onKeep={(id) =>
              changeWay('other switch', (w) => {
                w.input = id as WallWay['input']
                w.bindings = usualBindings(same.find((i) => i.id === id)!.kind, channel.kind)
              })
            }
          />
        )}
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
          label="Counts"
          value={input.settle}
          choices={[
            ['settle', 'when settled'],
            ['eager', 'at first edge'],
          ]}
          onKeep={(settle) =>
            change('settling', (i) => {
              i.settle = settle
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
        {input.kind === 'momentary' && way.bindings.some((b) => b.gesture === 'hold') && (
          <NumberField
            label="Hold after"
            unit="ms"
            value={input.holdMs}
            least={200}
            most={10000}
            onKeep={(ms) =>
              change('hold time', (i) => {
                if (i.kind === 'momentary') i.holdMs = ms
              })
            }
          />
        )}
      </div>
      {input.kind === 'selector' && <SelectorTable input={input} />}
      <fieldset>
        <legend className="field-label">Gesture and what it does</legend>
        {way.bindings.map((binding, at) => (
          <div key={at} className="mt-1 flex items-center gap-1.5">
            <select
              aria-label={`Gesture ${at + 1}`}
              className="field"
              value={binding.gesture}
              onChange={(event) =>
                changeWay('gesture', (w) => {
                  const gesture = event.target.value as Gesture
                  w.bindings[at] = {
                    gesture,
                    action:
                      gesture === 'follow'
                        ? 'follow'
                        : gesture === 'select'
                          ? 'level'
                          : binding.action === 'follow' || binding.action === 'level'
                            ? actions[0]![0]
                            : binding.action,
                  }
                })
              }
            >
              {[
                ...GESTURES[input.kind],
                ...(GESTURES[input.kind].some(([g]) => g === binding.gesture)
                  ? []
                  : [[binding.gesture, `${binding.gesture} (never made)`] as const]),
              ].map(([gesture, name]) => (
                <option key={gesture} value={gesture}>
                  {name}
                </option>
              ))}
            </select>
            {binding.gesture === 'follow' || binding.gesture === 'select' ? (
              <span className="field border-transparent bg-transparent">
                {binding.gesture === 'follow' ? 'closed is on' : 'sets the level'}
              </span>
            ) : (
              <select
                aria-label={`Action ${at + 1}`}
                className="field"
                value={binding.action}
                onChange={(event) =>
                  changeWay('action', (w) => {
                    w.bindings[at] = { ...binding, action: event.target.value as ChannelAction }
                  })
                }
              >
                {[
                  ...actions,
                  ...(actions.some(([one]) => one === binding.action)
                    ? []
                    : [[binding.action, `${binding.action} (does nothing)`] as const]),
                ].map(([action, name]) => (
                  <option key={action} value={action}>
                    {name}
                  </option>
                ))}
              </select>
            )}
            <button
              type="button"
              className="press-quiet"
              disabled={way.bindings.length === 1}
              aria-label={`Take gesture ${at + 1} out`}
              onClick={() =>
                changeWay('gesture out', (w) => {
                  w.bindings.splice(at, 1)
                })
              }
            >
              out
            </button>
          </div>
        ))}
        {way.bindings.length < 6 && input.kind !== 'selector' && (
          <button
            type="button"
            className="press-quiet -ml-1.5"
            onClick={() =>
              changeWay('gesture', (w) => {
                w.bindings.push(
                  input.kind === 'momentary'
                    ? {
                        gesture: 'hold',
                        action: channel.kind === 'paired' ? 'stop' : channel.kind === 'pulsed' ? 'pulse' : 'off',
                      }
                    : { gesture: 'flip', action: actions[0]![0] },
                )
              })
            }
          >
            add a gesture
          </button>
        )}
      </fieldset>
    </div>
  )
}

/** The level of each code; an empty field is a code that the switch does not make. */
function SelectorTable({ input }: { input: SelectorInput }) {
  const dispatch = useAppDispatch()
  const change = (label: string, mutate: (input: SelectorInput) => void) =>
    dispatch(
      edit(`${input.name}: ${label}`, (draft) => {
        const target = draft.inputs.find((i) => i.id === input.id)
        if (target?.kind === 'selector') mutate(target)
      }),
    )
  const setBits = (bits: number) =>
    change(`${bits} bits`, (i) => {
      i.bits = bits
      i.table = Array.from({ length: 2 ** bits }, (_, code) => i.table[code] ?? null)
    })
  return (
    <fieldset className="border-t border-hair pt-2">
      <legend className="sr-only">Selector</legend>
      <ChoiceField
        label="Contacts (bits)"
        value={String(input.bits) as '2'}
        choices={(['1', '2', '3', '4'] as const).map((bits) => [bits as '2', bits] as const)}
        onKeep={(bits) => setBits(Number(bits))}
      />
      <div className="mt-1.5 grid grid-cols-4 gap-1.5">
        {input.table.map((level, code) => (
          <TextField
            key={code}
            mono
            label={code.toString(2).padStart(input.bits, '0').split('').reverse().join('')}
            value={level === null ? '' : String(level)}
            check={(text) => (/^[0-8]?$/.test(text.trim()) ? null : '0–8')}
            onKeep={(text) =>
              change(`code ${code}`, (i) => {
                i.table[code] = text.trim() === '' ? null : Number(text)
              })
            }
          />
        ))}
      </div>
      <p className="mt-0.5 text-small text-soft">bit 1 first: 1 is closed. Level of each code.</p>
    </fieldset>
  )
}
