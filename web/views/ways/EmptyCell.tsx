import { controllerOf, kindOf, type Channel, type Input } from '../../../core/site'
import { addSwitchFor, addWallWay, type Column } from '../../../core/ways'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { withId } from '../../store/useChange'
import { makeWay } from './cellEdits'

/** What an empty cell says, and the press that fills it. */
const EMPTY: Record<Exclude<Column, 'wall'>, readonly [string, string]> = {
  remote: ['No remote key yet.', 'Add key'],
  app: ['No point on the app service yet.', 'Add point and widget'],
  hub: ['No entity on the hub yet.', 'Add entity'],
  voice: ['No spoken name yet.', 'Add spoken name'],
  nearby: ['No command over a nearby link yet.', 'Add characters'],
  serial: ['No command over a serial link yet.', 'Add characters'],
  rule: ['No rule yet.', 'Add rule'],
}

export function EmptyCell({ channel, column }: { channel: Channel; column: Column }) {
  const dispatch = useAppDispatch()
  if (column === 'wall') return <NoSwitch channel={channel} />
  const [words, press] = EMPTY[column]
  return (
    <div className="mt-2">
      <p className="text-note text-soft">{words}</p>
      <button type="button" className="press mt-2" onClick={() => dispatch(makeWay(channel, column))}>
        {press}
      </button>
    </div>
  )
}

/** Kinds of switch that suit a channel: what only pulses is not rocked, what has levels can be turned. */
function switchesFor(channel: Channel): readonly (readonly [Input['kind'], string])[] {
  const { lasting, usual, report } = kindOf(channel)
  return [
    ['momentary', 'Add push switch'],
    ...(lasting || usual.press === 'toggle' ? ([['rocker', 'Add rocker']] as const) : []),
    ...(report === 'level' ? ([['selector', 'Add selector']] as const) : []),
  ]
}

function NoSwitch({ channel }: { channel: Channel }) {
  const dispatch = useAppDispatch()
  const inputs = useAppSelector((state) => state.site.site!.inputs)
  const others = inputs.filter((input) => input.controller === channel.controller && input.kind !== 'contact')
  const add = (kind: Input['kind']) =>
    dispatch(
      edit(`${kind === 'momentary' ? 'push switch' : kind} for ${channel.name}`, (draft) => {
        const target = withId(draft.channels, channel.id)!
        addWallWay(draft, target, addSwitchFor(draft, target, kind, controllerOf(draft, target.controller)!))
      }),
    )
  const take = (input: Input) =>
    dispatch(
      edit(`${input.name} works ${channel.name}`, (draft) => {
        addWallWay(draft, withId(draft.channels, channel.id)!, withId(draft.inputs, input.id)!)
      }),
    )
  return (
    <div className="mt-2">
      <p className="text-note text-soft">No switch yet.</p>
      <div className="mt-2 flex flex-wrap gap-1.5">
        {switchesFor(channel).map(([kind, words]) => (
          <button key={kind} type="button" className="press" onClick={() => add(kind)}>
            {words}
          </button>
        ))}
        {others.map((input) => (
          <button key={input.id} type="button" className="press" onClick={() => take(input)}>
            {input.name}
          </button>
        ))}
      </div>
    </div>
  )
}
