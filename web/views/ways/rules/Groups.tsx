import { useState, type FormEvent } from 'react'
import { topLevel, type Channel, type Group, type Site } from '../../../../core/site'
import { addGroup, removeGroup, setMember, setMemberLevel } from '../../../../core/ways'
import { Fields, fieldsOf, needsName } from '../../../parts/form'
import { edit } from '../../../store/editing'
import { takeOut } from '../../../store/takeOut'
import { useAppDispatch, useAppSelector } from '../../../store/store'
import { useChange, withId } from '../../../store/useChange'
import { GroupWays } from './GroupWays'

/** Channels that are worked together. "All off" spares the essential ones. */
export function Groups() {
  const groups = useAppSelector((state) => state.site.site!.groups)
  const [open, setOpen] = useState<string | null>(null)
  return (
    <section aria-label="Groups">
      <h2 className="rule-head">Groups</h2>
      <ul>
        {groups.map((group) => (
          <GroupLine
            key={group.id}
            group={group}
            open={open === group.id}
            onTurn={() => setOpen(open === group.id ? null : group.id)}
          />
        ))}
      </ul>
      <NewGroup />
    </section>
  )
}

const memberWords = (site: Site, group: Group): string =>
  group.members
    .map((id) => {
      const channel = withId(site.channels, id)
      return channel ? `${channel.name}${channel.essential ? ' (essential)' : ''}` : id
    })
    .join(', ') || 'no members yet'

function GroupLine({ group, open, onTurn }: { group: Group; open: boolean; onTurn: () => void }) {
  const site = useAppSelector((state) => state.site.site)!
  return (
    <li className="border-b border-hair py-1.5">
      <button type="button" aria-expanded={open} className="text-left" onClick={onTurn}>
        <span className="font-semibold">{group.name}</span>{' '}
        <span className="text-note text-soft">{memberWords(site, group)}</span>
      </button>
      {open && <GroupFields group={group} />}
    </li>
  )
}

const NAME = [fieldsOf<Group>().text('Name', 'name', { check: needsName })]

function GroupFields({ group }: { group: Group }) {
  const dispatch = useAppDispatch()
  const channels = useAppSelector((state) => state.site.site!.channels)
  const change = useChange(`group ${group.name}`, (draft) => withId(draft.groups, group.id))
  const turn = (channel: Channel, joins: boolean) =>
    dispatch(
      edit(`${channel.name} ${joins ? 'joins' : 'leaves'} ${group.name}`, (draft) =>
        setMember(draft, group.id, channel.id, joins),
      ),
    )
  return (
    <div className="mt-1.5">
      <div className="w-56">
        <Fields rows={NAME} of={group} change={change} />
      </div>
      <div className="mt-1.5 grid grid-cols-2 gap-x-3 gap-y-0.5">
        {channels.map((channel) => (
          <Member key={channel.id} group={group} channel={channel} onTurn={(joins) => turn(channel, joins)} />
        ))}
      </div>
      <GroupWays group={group} />
      <button
        type="button"
        className="press-quiet mt-1 -ml-1.5"
        onClick={() => dispatch(takeOut(group.name, (draft) => removeGroup(draft, group.id)))}
      >
        Delete group
      </button>
    </div>
  )
}

/** A channel in or out of the group, and what `on` gives to it. */
function Member(props: { group: Group; channel: Channel; onTurn: (joins: boolean) => void }) {
  const { group, channel, onTurn } = props
  const joins = group.members.includes(channel.id)
  return (
    <div className={`flex min-h-6 items-center gap-2 text-note ${joins ? 'col-span-2' : ''}`}>
      <label className="flex min-w-0 flex-1 items-center gap-2">
        <input
          type="checkbox"
          className="size-4 accent-(--ink)"
          checked={joins}
          onChange={(event) => onTurn(event.target.checked)}
        />
        <span className="truncate">{channel.name}</span>
      </label>
      {joins && channel.kind !== 'pulsed' && <MemberLevel group={group} channel={channel} />}
    </div>
  )
}

/** What a member goes to when the group goes on: on, off, or a level of a scene. */
function MemberLevel({ group, channel }: { group: Group; channel: Channel }) {
  const dispatch = useAppDispatch()
  const level = group.levels?.[channel.id]
  const pick = (text: string) =>
    dispatch(
      edit(`${channel.name} in ${group.name}: ${text === '' ? 'on' : text}`, (draft) =>
        setMemberLevel(draft, group.id, channel.id, text === '' ? null : Number(text)),
      ),
    )
  const levels = topLevel(channel) > 1 ? Array.from({ length: topLevel(channel) }, (_, at) => at + 1) : []
  return (
    <select
      className="field w-24"
      aria-label={`${channel.name} when ${group.name} goes on`}
      value={level ?? ''}
      onChange={(event) => pick(event.target.value)}
    >
      <option value="">on</option>
      <option value="0">off</option>
      {levels.map((one) => (
        <option key={one} value={one}>
          level {one}
        </option>
      ))}
    </select>
  )
}

function NewGroup() {
  const dispatch = useAppDispatch()
  const [text, setText] = useState('')
  const name = text.trim()
  const add = (event: FormEvent) => {
    event.preventDefault()
    if (!name) return
    dispatch(edit(`group ${name}`, (draft) => void addGroup(draft, name, [])))
    setText('')
  }
  return (
    <form className="mt-2 flex items-end gap-2" onSubmit={add}>
      <label className="w-56">
        <span className="field-label">New group</span>
        <input
          className="field"
          value={text}
          maxLength={60}
          placeholder="Everything in the hall"
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <button type="submit" className="press" disabled={!name}>
        Add group
      </button>
    </form>
  )
}
