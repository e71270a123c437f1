import { useState } from 'react'
import { closestPair, codeName, codeTrouble, PROTOCOLS, RANGES, type NamedCode } from '../../../../core/infrared'
import type { Key, Remote } from '../../../../core/site'
import { addKey, remoteFor, removeKey, removeRemote } from '../../../../core/ways'
import { ChoiceField, NumberField, TextField } from '../../../parts/fields'
import { edit } from '../../../store/editing'
import { useAppDispatch, useAppSelector } from '../../../store/store'
import { TeachPanel } from './TeachPanel'

/** Remotes as they lie in the hand: their keys, what each sends and does; and the bench where keys are taught. */
export function RemotesTab() {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const [which, setWhich] = useState<string | null>(null)
  const [keyId, setKeyId] = useState<string | null>(null)
  const remote = site.remotes.find((one) => one.id === which) ?? site.remotes[0]
  const key = remote?.keys.find((one) => one.id === keyId) ?? remote?.keys[0]
  const listeners = site.controllers.filter(
    (controller) => !site.remotes.some((one) => one.controller === controller.id),
  )
  return (
    <div>
      <div className="flex flex-wrap gap-1.5">
        {site.remotes.map((one) => (
          <button
            key={one.id}
            type="button"
            aria-pressed={one.id === remote?.id}
            className="press aria-pressed:bg-ink aria-pressed:text-wall"
            onClick={() => setWhich(one.id)}
          >
            {one.name}
          </button>
        ))}
        {listeners.map((controller) => (
          <button
            key={controller.id}
            type="button"
            className="press-quiet"
            onClick={() =>
              dispatch(edit(`remote for ${controller.name}`, (draft) => void remoteFor(draft, controller.id)))
            }
          >
            remote for {controller.name}
          </button>
        ))}
      </div>
      {!remote ? (
        <p className="mt-4 text-soft">
          No remote yet. Fill the Remote column of the crossbar, or begin one for a controller with a receiver.
        </p>
      ) : (
        <div className="mt-3 grid grid-cols-[17rem_1fr] gap-7">
          <div className="space-y-4">
            <DrawnRemote remote={remote} picked={key?.id ?? null} onPick={setKeyId} />
            {key ? <KeyFields remote={remote} keyOf={key} /> : <p className="text-soft">No key yet: teach one.</p>}
          </div>
          <TeachPanel remote={remote} picked={key} />
        </div>
      )}
    </div>
  )
}

/** Least distance between two taught codes, and which they are. */
function Distance({ remote }: { remote: Remote }) {
  const codes = remote.keys.flatMap((key): NamedCode[] =>
    key.code.protocol === 'unknown' || codeTrouble(key.code) ? [] : [{ name: key.name, code: key.code }],
  )
  const closest = closestPair(codes)
  if (!closest) return null
  return (
    <p className={`mt-2 text-note ${closest.microseconds === 0 ? 'font-semibold text-error' : 'text-soft'}`}>
      Closest: “{closest.a}” and “{closest.b}”, {(closest.microseconds / 1000).toFixed(1)} ms apart.
    </p>
  )
}

function DrawnRemote({
  remote,
  picked,
  onPick,
}: {
  remote: Remote
  picked: string | null
  onPick: (id: string) => void
}) {
  const dispatch = useAppDispatch()
  const rows = Math.max(3, ...remote.keys.map((key) => key.row + 1))
  return (
    <section aria-label={remote.name}>
      <h2 className="rule-head">{remote.name}</h2>
      <div
        className="mt-2 grid grid-cols-3 gap-2 rounded-2xl border-2 border-ink bg-panel p-3"
        style={{ gridTemplateRows: `repeat(${rows}, minmax(3.4rem, auto))` }}
      >
        {remote.keys.map((key) => (
          <button
            key={key.id}
            type="button"
            aria-pressed={key.id === picked}
            className="flex flex-col items-center justify-center rounded-lg border-2 border-ink bg-wall px-1 py-1 text-center text-note leading-tight font-semibold aria-pressed:bg-ink aria-pressed:text-wall"
            style={{ gridRow: key.row + 1, gridColumn: Math.min(3, key.column + 1) }}
            onClick={() => onPick(key.id)}
          >
            {key.name}
            <span className="font-mono text-[0.625rem] font-normal opacity-80">
              {codeName(key.code).replace(/^unknown /, '#')}
            </span>
          </button>
        ))}
      </div>
      <Distance remote={remote} />
      <div className="mt-2 flex flex-wrap gap-1.5">
        <button
          type="button"
          className="press"
          onClick={() =>
            dispatch(
              edit(
                `a key on ${remote.name}`,
                (draft) =>
                  void addKey(
                    draft,
                    draft.remotes.find((r) => r.id === remote.id)!,
                    `Key ${remote.keys.length + 1}`,
                  ),
              ),
            )
          }
        >
          Another key
        </button>
        <button
          type="button"
          className="press-quiet"
          onClick={() => dispatch(edit(`no ${remote.name}`, (draft) => removeRemote(draft, remote.id)))}
        >
          take the remote out
        </button>
      </div>
    </section>
  )
}

function KeyFields({ remote, keyOf: key }: { remote: Remote; keyOf: Key }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const change = (label: string, mutate: (target: Key) => void) =>
    dispatch(
      edit(`“${key.name}”: ${label}`, (draft) =>
        mutate(draft.remotes.find((r) => r.id === remote.id)!.keys.find((k) => k.id === key.id)!),
      ),
    )
  const { code } = key
  const does = [
    ...site.ways.flatMap((way) =>
      way.kind === 'remote' && way.remote === remote.id && way.key === key.id
        ? [
            `${site.channels.find((channel) => channel.id === way.channel)?.name}: ` +
              `${way.action === 'level' ? `level ${way.level}` : way.action}`,
          ]
        : [],
    ),
    ...site.controls.flatMap((control) =>
      control.source.kind === 'remote' && control.source.remote === remote.id && control.source.key === key.id
        ? [
            `${control.kind === 'group' ? (site.groups.find((group) => group.id === control.group)?.name ?? '') : 'the controller'}: ` +
              `${control.action}`,
          ]
        : [],
    ),
  ]
  return (
    <section aria-label={`Key ${key.name}`}>
      <h2 className="rule-head">{key.name}</h2>
      <div className="mt-2 space-y-2">
        <TextField
          label="Name"
          value={key.name}
          check={(text) => (text.trim() ? null : 'a name is needed')}
          onKeep={(name) =>
            change('name', (k) => {
              k.name = name
            })
          }
        />
        {code.protocol === 'unknown' ? (
          <p className="font-mono text-note">{codeName(code)}</p>
        ) : (
          <div className="grid grid-cols-3 gap-2">
            <ChoiceField
              label="Protocol"
              value={code.protocol}
              choices={PROTOCOLS.map(
                (one) =>
                  [
                    one,
                    codeName({ protocol: one, address: 0, command: 0 }).split(' ')[0]! +
                      (one === 'nec-ext' ? ', 16 bit' : ''),
                  ] as const,
              )}
              onKeep={(protocol) =>
                change('protocol', (k) => {
                  if (k.code.protocol !== 'unknown')
                    k.code = {
                      protocol,
                      address: Math.min(k.code.address, RANGES[protocol].address),
                      command: Math.min(k.code.command, RANGES[protocol].command),
                    }
                })
              }
            />
            <NumberField
              label="Address"
              value={code.address}
              least={0}
              most={RANGES[code.protocol].address}
              onKeep={(address) =>
                change('address', (k) => {
                  if (k.code.protocol !== 'unknown') k.code.address = address
                })
              }
            />
            <NumberField
              label="Command"
              value={code.command}
              least={0}
              most={RANGES[code.protocol].command}
              onKeep={(command) =>
                change('command', (k) => {
                  if (k.code.protocol !== 'unknown') k.code.command = command
                })
              }
            />
          </div>
        )}
        <ChoiceField
          label="Held on"
          value={key.repeat.policy}
          choices={[
            ['once', 'counts once'],
            ['repeat', 'again and again'],
          ]}
          onKeep={(policy) =>
            change('repeat', (k) => {
              k.repeat = policy === 'once' ? { policy } : { policy, everyMs: 400 }
            })
          }
        />
        {key.repeat.policy === 'repeat' && (
          <NumberField
            label="Each"
            unit="ms"
            value={key.repeat.everyMs}
            least={50}
            most={5_000}
            onKeep={(everyMs) =>
              change('repeat time', (k) => {
                k.repeat = { policy: 'repeat', everyMs }
              })
            }
          />
        )}
        <div className="grid grid-cols-2 gap-2">
          <NumberField
            label="Row"
            value={key.row + 1}
            least={1}
            most={31}
            onKeep={(row) =>
              change('row', (k) => {
                k.row = row - 1
              })
            }
          />
          <NumberField
            label="Column"
            value={key.column + 1}
            least={1}
            most={3}
            onKeep={(column) =>
              change('column', (k) => {
                k.column = column - 1
              })
            }
          />
        </div>
      </div>
      <h3 className="mt-3 font-semibold">Does</h3>
      {does.length === 0 && (
        <p className="text-note text-soft">Nothing yet: pick the Remote cell of a channel in the crossbar.</p>
      )}
      <ul className="text-note">
        {does.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
      <button
        type="button"
        className="press-quiet mt-2 -ml-1.5"
        onClick={() => dispatch(edit(`no key “${key.name}”`, (draft) => removeKey(draft, remote.id, key.id)))}
      >
        Take this key out
      </button>
    </section>
  )
}
