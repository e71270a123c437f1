import { useId } from 'react'
import { PORTS } from '../../../core/boards'
import { TickField } from '../../parts/fields'
import { groupsFor, type ProfileLabel } from './profileLabels'
import { plainFields, withField, type Profile } from './profiles'

type Value = string | number | boolean

/** The plain values of a profile in their groups, each with its unit and a word of help. */
export function ProfileForm({ profile, onChange }: { profile: Profile; onChange: (profile: Profile) => void }) {
  const values = new Map<string, Value>(plainFields(profile))
  const groups = groupsFor('kind' in profile ? profile.kind : undefined)
  return (
    <div className="mt-2 space-y-4">
      {groups.map(([name, fields]) => {
        const there = Object.entries(fields).filter(([path]) => values.has(path))
        if (there.length === 0) return null
        return (
          <fieldset key={name}>
            <legend className="text-note font-semibold">{name}</legend>
            <div className="mt-1 grid grid-cols-2 gap-x-3 gap-y-2 @3xl:grid-cols-3">
              {there.map(([path, label]) => (
                <PlainField
                  key={path}
                  label={path === 'port' ? { ...label, choices: PORTS } : label}
                  value={values.get(path)!}
                  onKeep={(next) => onChange(withField(profile, path, next))}
                />
              ))}
            </div>
          </fieldset>
        )
      })}
      <p className="text-note text-soft">Pins, pairs and what else is a list stand in the JSON.</p>
    </div>
  )
}

interface FieldProps {
  readonly label: ProfileLabel
  readonly value: Value
  readonly onKeep: (value: string | boolean) => void
}

function PlainField({ label: { label, unit, help, choices, wide }, value, onKeep }: FieldProps) {
  const id = useId()
  return (
    <div className={wide ? 'col-span-full' : ''}>
      {typeof value === 'boolean' ? (
        <TickField label={label} value={value} onKeep={onKeep} />
      ) : (
        <>
          <label htmlFor={id} className="field-label">
            {label}
            {unit && ` (${unit})`}
          </label>
          {choices ? (
            <select id={id} className="field" value={value} onChange={(event) => onKeep(event.target.value)}>
              {Object.entries(choices).map(([choice, words]) => (
                <option key={choice} value={choice}>
                  {words}
                </option>
              ))}
            </select>
          ) : (
            <input id={id} className="field" value={value} onChange={(event) => onKeep(event.target.value)} />
          )}
        </>
      )}
      {help && <p className="mt-0.5 text-small text-soft">{help}</p>}
    </div>
  )
}
