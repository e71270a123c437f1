import { codeName, PROTOCOLS, protocolName, RANGES, type Protocol } from '../../../../core/infrared'
import type { Key, Remote } from '../../../../core/site'
import { keyDeeds, removeKey } from '../../../../core/ways'
import { Fields, fieldsOf, needsName } from '../../../parts/form'
import { takeOut } from '../../../store/takeOut'
import { useAppDispatch, useAppSelector } from '../../../store/store'
import { HELD_FIELDS, useKeyChange } from '../RemoteFields'

type Known = Extract<Key['code'], { address: number }>
const known = (key: Key): Known | null => (key.code.protocol === 'unknown' ? null : key.code)

const field = fieldsOf<Key>()
const NAME = [field.text('Name', 'name', { check: needsName })]
const numberOf = (part: 'address' | 'command', label: string) =>
  field.number(
    label,
    {
      read: (key) => known(key)?.[part] ?? 0,
      write: (key, value) => {
        const code = known(key)
        if (code) code[part] = value
      },
    },
    { least: 0, most: (key) => RANGES[known(key)?.protocol ?? 'nec'][part] },
  )
const CODE = [
  field.choice(
    'Protocol',
    {
      read: (key) => known(key)?.protocol ?? 'nec',
      write: (key, protocol: Protocol) => {
        const code = known(key)
        const { address, command } = RANGES[protocol]
        if (code)
          key.code = { protocol, address: Math.min(code.address, address), command: Math.min(code.command, command) }
      },
    },
    PROTOCOLS.map((protocol) => [protocol, protocolName(protocol)] as const),
  ),
  numberOf('address', 'Address'),
  numberOf('command', 'Command'),
]
const placeOf = (part: 'row' | 'column', label: string, most: number) =>
  field.number(
    label,
    {
      read: (key) => key[part] + 1,
      write: (key, place) => {
        key[part] = place - 1
      },
    },
    { least: 1, most },
  )
const PLACE = [placeOf('row', 'Row', 31), placeOf('column', 'Column', 3)]

/** A key: its name, what it sends, where it stands, and what it does. */
export function KeyFields({ remote, pressed }: { remote: Remote; pressed: Key }) {
  const dispatch = useAppDispatch()
  const change = useKeyChange(remote.id, pressed)
  const out = takeOut(pressed.name, (draft) => removeKey(draft, remote.id, pressed.id))
  return (
    <section aria-label={`Key ${pressed.name}`} data-thing={pressed.id}>
      <h2 className="rule-head">{pressed.name}</h2>
      <div className="mt-2 space-y-2">
        <Fields rows={NAME} of={pressed} change={change} />
        {known(pressed) ? (
          <div className="grid grid-cols-3 gap-2">
            <Fields rows={CODE} of={pressed} change={change} />
          </div>
        ) : (
          <p className="font-mono text-note">{codeName(pressed.code)}</p>
        )}
        <Fields rows={HELD_FIELDS} of={pressed} change={change} />
        <div className="grid grid-cols-2 gap-2">
          <Fields rows={PLACE} of={pressed} change={change} />
        </div>
      </div>
      <Deeds remote={remote} pressed={pressed} />
      <button type="button" className="press-quiet mt-2 -ml-1.5" onClick={() => dispatch(out)}>
        Delete key
      </button>
    </section>
  )
}

function Deeds({ remote, pressed }: { remote: Remote; pressed: Key }) {
  const site = useAppSelector((state) => state.site.site)!
  const does = keyDeeds(site, remote.id, pressed.id)
  return (
    <>
      <h3 className="mt-3 font-semibold">Action</h3>
      {does.length === 0 && (
        <p className="text-note text-soft">No channel yet: pick the Remote cell of a channel in the crossbar.</p>
      )}
      <ul className="text-note">
        {does.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
    </>
  )
}
