import { useState, type FormEvent } from 'react'
import type { Control, Site } from '../../../../core/site'
import {
  addControl,
  CONTROLLER_ACTIONS,
  controlSources,
  controlWords,
  removeControl,
  sourceWords,
} from '../../../../core/ways'
import { edit } from '../../../store/editing'
import { useAppDispatch, useAppSelector } from '../../../store/store'

type Choices = readonly (readonly [string, string])[]

const GROUP_ACTIONS: Choices = ['off', 'on', 'toggle', 'up', 'down', 'stop'].map((action) => [action, action])
const OF_CONTROLLERS: Choices = Object.entries(CONTROLLER_ACTIONS)

/** The ways to groups and to controllers themselves. */
export function Controls() {
  const controls = useAppSelector((state) => state.site.site!.controls)
  return (
    <section aria-label="Ways to groups and controllers">
      <h2 className="rule-head">Ways to groups and controllers</h2>
      <ul>
        {controls.map((control) => (
          <ControlLine key={control.id} control={control} />
        ))}
      </ul>
      <NewControl />
    </section>
  )
}

function ControlLine({ control }: { control: Control }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const source = sourceWords(site, control.source)
  return (
    <li className="flex items-baseline gap-3 border-b border-hair py-1.5">
      <span className="min-w-0 flex-1">
        {source}{' '}
        <span className="text-brass" aria-hidden="true">
          →
        </span>{' '}
        <span className="font-semibold">{controlWords(site, control)}</span>
      </span>
      <button
        type="button"
        className="press-quiet"
        onClick={() => dispatch(edit(`delete ${source}`, (draft) => removeControl(draft, control.id)))}
      >
        Delete
      </button>
    </li>
  )
}

/** What a control works, as a form holds it: "group:hall", "controller:corner". */
const targetsOf = (site: Site): Choices => [
  ...site.groups.map((group) => [`group:${group.id}`, group.name] as const),
  ...site.controllers.map((controller) => [`controller:${controller.id}`, `${controller.name} itself`] as const),
]

type Wish = Parameters<typeof addControl>[1]

function wishOf(source: Control['source'], target: string, action: string): Wish {
  const [kind, id] = target.split(':')
  const what = kind === 'group' ? { kind, group: id } : { kind: 'controller', controller: id }
  return { ...what, source, action } as Wish
}

function NewControl() {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const sources = controlSources(site).map((one) => ({ source: one, words: sourceWords(site, one) }))
  const [by, setBy] = useState('')
  const [target, setTarget] = useState('')
  const [action, setAction] = useState('')
  const onGroup = target.startsWith('group:')
  const pickTarget = (next: string) => {
    setTarget(next)
    setAction(next.startsWith('group:') ? 'off' : 'autoToggle')
  }
  const add = (event: FormEvent) => {
    event.preventDefault()
    const found = sources.find(({ source }) => JSON.stringify(source) === by)
    if (!found || !target || !action) return
    const wish = wishOf(found.source, target, action)
    dispatch(edit(`${found.words}: ${action}`, (draft) => void addControl(draft, wish)))
    setBy('')
  }
  const offered: Choices = sources.map(({ source, words }) => [JSON.stringify(source), words])
  return (
    <form className="mt-2 grid grid-cols-2 @xl:grid-cols-[1fr_1fr_1fr_auto] items-end gap-2" onSubmit={add}>
      <Pick label="Source" value={by} choices={[['', 'choose …'], ...offered]} onPick={setBy} />
      <Pick label="Target" value={target} choices={[['', 'choose …'], ...targetsOf(site)]} onPick={pickTarget} />
      <Pick label="Action" value={action} choices={onGroup ? GROUP_ACTIONS : OF_CONTROLLERS} onPick={setAction} />
      <button type="submit" className="press" disabled={!by || !target || !action}>
        Add
      </button>
    </form>
  )
}

interface PickProps {
  readonly label: string
  readonly value: string
  readonly choices: Choices
  readonly onPick: (value: string) => void
}

function Pick({ label, value, choices, onPick }: PickProps) {
  return (
    <label>
      <span className="field-label">{label}</span>
      <select className="field" value={value} onChange={(event) => onPick(event.target.value)}>
        {choices.map(([choice, words]) => (
          <option key={choice} value={choice}>
            {words}
          </option>
        ))}
      </select>
    </label>
  )
}
