import { useState, type FormEvent } from 'react'
import type { Channel, Group, Site } from '../../../../core/site'
import { addGroup, removeGroup, setMember } from '../../../../core/ways'
import { Fields, fieldsOf, needsName } from '../../../parts/form'
import { edit } from '../../../store/editing'
import { takeOut } from '../../../store/takeOut'
import { useAppDispatch, useAppSelector } from '../../../store/store'
import { useChange, withId } from '../../../store/useChange'

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
    .join(', ') || 'nobody yet'

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
      <div className="mt-1.5 grid grid-cols-2 gap-x-3">
        {channels.map((channel) => (
          <label key={channel.id} className="flex min-h-6 items-center gap-2 text-note">
            <input
              type="checkbox"
              className="size-4 accent-(--ink)"
              checked={group.members.includes(channel.id)}
              onChange={(event) => turn(channel, event.target.checked)}
            />
            {channel.name}
          </label>
        ))}
      </div>
      <button
        type="button"
        className="press-quiet mt-1 -ml-1.5"
        onClick={() => dispatch(takeOut(group.name, (draft) => removeGroup(draft, group.id)))}
      >
        Take the group out
      </button>
    </div>
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
        Add it
      </button>
    </form>
  )
}
