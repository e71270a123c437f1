import { useState } from 'react'
import type { Channel, VoiceWay } from '../../../core/site'
import { betterName, resolveUtterance } from '../../../core/voice'
import { ChoiceField, TextField, TickField } from '../../parts/fields'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'

export function VoiceFields({ way, channel }: { way: VoiceWay; channel: Channel }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const carriers = site.ways.filter(
    (other) => other.channel === channel.id && (other.kind === 'app' || other.kind === 'hub'),
  )
  const change = (label: string, mutate: (target: VoiceWay) => void) =>
    dispatch(
      edit(`“${way.name}”: ${label}`, (draft) => {
        const target = draft.ways.find((w) => w.id === way.id)
        if (target?.kind === 'voice') mutate(target)
      }),
    )
  const better = betterName(site, way.id)
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-2 gap-2">
        <TextField
          label="Spoken name"
          value={way.name}
          check={(text) => (text.trim() && text.length <= 60 ? null : 'a name of at most 60 characters')}
          onKeep={(name) =>
            change('name', (w) => {
              w.name = name
            })
          }
        />
        <ChoiceField
          label="Goes by"
          value={(way.through ?? '') as string}
          choices={[
            ['', 'nothing'],
            ...carriers.map(
              (carrier) => [carrier.id as string, carrier.kind === 'hub' ? 'the hub' : 'the app service'] as const,
            ),
          ]}
          onKeep={(id) =>
            change('way', (w) => {
              w.through = (id || null) as VoiceWay['through']
            })
          }
        />
      </div>
      <TickField
        label="The service asks for a spoken PIN"
        value={way.pin}
        onKeep={(pin) =>
          change('PIN', (w) => {
            w.pin = pin
          })
        }
      />
      {better && (
        <button
          type="button"
          className="press-quiet -ml-1.5"
          onClick={() =>
            change('another name', (w) => {
              w.name = better
            })
          }
        >
          say “{better}” instead
        </button>
      )}
      <SayLine />
    </div>
  )
}

/** A line to type what one would say, and see what it is taken for, and why. */
export function SayLine() {
  const site = useAppSelector((state) => state.site.site)!
  const [text, setText] = useState('')
  const found = text.trim() ? resolveUtterance(site, text) : null
  const word = !found
    ? ''
    : found.kind === 'device'
      ? `${found.channel.name}: ${found.spoken.action === 'level' ? `level ${found.spoken.level}` : found.spoken.action}`
      : found.kind === 'many'
        ? `${found.what}: ${found.spoken.action}`
        : found.kind === 'ambiguous'
          ? 'undecided'
          : 'nothing'
  return (
    <div className="border-t border-hair pt-2">
      <label className="block">
        <span className="field-label">Say something</span>
        <input
          className="field"
          value={text}
          placeholder="turn on the bench lights"
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {found && (
        <div role="status" className="mt-1.5 text-note">
          <p
            className={`font-semibold ${found.kind === 'device' || found.kind === 'many' ? 'text-rest' : 'text-error'}`}
          >
            {found.kind === 'device' || found.kind === 'many' ? '→' : '✕'} {word}
          </p>
          <ul className="text-soft">
            {found.why.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </div>
      )}
    </div>
  )
}
