import { useState } from 'react'
import type { Control, Gesture, Site } from '../../../../core/site'
import { addControl, freeChar, removeControl, sourceWords } from '../../../../core/ways'
import { edit } from '../../../store/editing'
import { useAppDispatch, useAppSelector } from '../../../store/store'

const GROUP_ACTIONS = ['off', 'on', 'toggle', 'up', 'down', 'stop'] as const
const CONTROLLER_ACTIONS = [
  ['auto', 'auto'],
  ['manual', 'manual'],
  ['autoToggle', 'auto or manual, by turns'],
  ['report', 'report everything'],
  ['pair', 'offer to be paired'],
  ['reset', 'forget the credentials'],
] as const

/** Sources that can work a group or a controller: gestures of switches, keys, and a free character of each link. */
function sourcesOf(site: Site): { value: string; words: string; source: Control['source'] }[] {
  const gestures: Record<string, readonly Gesture[]> = {
    momentary: ['press', 'hold'],
    rocker: ['flip'],
    selector: [],
    contact: [],
  }
  const list: Control['source'][] = [
    ...site.inputs.flatMap((input) =>
      gestures[input.kind]!.map((gesture) => ({ kind: 'wall' as const, input: input.id, gesture })),
    ),
    ...site.remotes.flatMap((remote) =>
      remote.keys.map((key) => ({ kind: 'remote' as const, remote: remote.id, key: key.id })),
    ),
    ...site.links.map((link) => ({ kind: 'link' as const, link: link.id, char: freeChar(site, link.controller) })),
  ]
  return list.map((source) => ({ value: JSON.stringify(source), words: sourceWords(site, source), source }))
}

/** The ways to groups and to controllers themselves. */
export function Controls() {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const sources = sourcesOf(site)
  const [source, setSource] = useState('')
  const [target, setTarget] = useState('')
  const [action, setAction] = useState('')
  const onGroup = target.startsWith('group:')
  const id = target.slice(target.indexOf(':') + 1)
  const add = () => {
    const found = sources.find((one) => one.value === source)
    if (!found || !target || !action) return
    dispatch(
      edit(
        `${found.words}: ${action}`,
        (draft) =>
          void addControl(
            draft,
            (onGroup
              ? { kind: 'group', group: id, source: found.source, action }
              : { kind: 'controller', controller: id, source: found.source, action }) as Parameters<
              typeof addControl
            >[1],
          ),
      ),
    )
    setSource('')
  }
  return (
    <section aria-label="Ways to groups and controllers">
      <h2 className="rule-head">Ways to groups and controllers</h2>
      <ul>
        {site.controls.map((control) => (
          <li key={control.id} className="flex items-baseline gap-3 border-b border-hair py-1.5">
            <span className="min-w-0 flex-1">
              {sourceWords(site, control.source)}{' '}
              <span className="text-brass" aria-hidden="true">
                →
              </span>{' '}
              <span className="font-semibold">
                {control.kind === 'group'
                  ? site.groups.find((group) => group.id === control.group)?.name
                  : site.controllers.find((controller) => controller.id === control.controller)?.name}
              </span>{' '}
              {control.action}
            </span>
            <button
              type="button"
              className="press-quiet"
              onClick={() =>
                dispatch(edit(`no ${sourceWords(site, control.source)}`, (draft) => removeControl(draft, control.id)))
              }
            >
              out
            </button>
          </li>
        ))}
      </ul>
      <form
        className="mt-2 grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          add()
        }}
      >
        <label>
          <span className="field-label">By</span>
          <select className="field" value={source} onChange={(event) => setSource(event.target.value)}>
            <option value="">choose …</option>
            {sources.map((one) => (
              <option key={one.value} value={one.value}>
                {one.words}
              </option>
            ))}
          </select>
        </label>
        <label>
          <span className="field-label">Works</span>
          <select
            className="field"
            value={target}
            onChange={(event) => {
              setTarget(event.target.value)
              setAction(event.target.value.startsWith('group:') ? 'off' : 'autoToggle')
            }}
          >
            <option value="">choose …</option>
            {site.groups.map((group) => (
              <option key={group.id} value={`group:${group.id}`}>
                {group.name}
              </option>
            ))}
            {site.controllers.map((controller) => (
              <option key={controller.id} value={`controller:${controller.id}`}>
                {controller.name} itself
              </option>
            ))}
          </select>
        </label>
        <label>
          <span className="field-label">Does</span>
          <select className="field" value={action} onChange={(event) => setAction(event.target.value)}>
            {(onGroup ? GROUP_ACTIONS.map((one) => [one, one] as const) : CONTROLLER_ACTIONS).map(([one, words]) => (
              <option key={one} value={one}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <button type="submit" className="press" disabled={!source || !target || !action}>
          Add
        </button>
      </form>
    </section>
  )
}
