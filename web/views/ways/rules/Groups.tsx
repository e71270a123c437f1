import { useState } from 'react'
import { addGroup, removeGroup } from '../../../../core/ways'
import { TextField } from '../../../parts/fields'
import { edit } from '../../../store/editing'
import { useAppDispatch, useAppSelector } from '../../../store/store'

/** Channels that are worked together. "All off" spares the essential ones. */
export function Groups() {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const [name, setName] = useState('')
  const [open, setOpen] = useState<string | null>(null)
  return (
    <section aria-label="Groups">
      <h2 className="rule-head">Groups</h2>
      <ul>
        {site.groups.map((group) => (
          <li key={group.id} className="border-b border-hair py-1.5">
            <button
              type="button"
              aria-expanded={open === group.id}
              className="text-left"
              onClick={() => setOpen(open === group.id ? null : group.id)}
            >
              <span className="font-semibold">{group.name}</span>{' '}
              <span className="text-note text-soft">
                {group.members
                  .map((id) => {
                    const channel = site.channels.find((one) => one.id === id)
                    return channel ? `${channel.name}${channel.essential ? ' (essential)' : ''}` : id
                  })
                  .join(', ') || 'nobody yet'}
              </span>
            </button>
            {open === group.id && (
              <div className="mt-1.5">
                <div className="w-56">
                  <TextField
                    label="Name"
                    value={group.name}
                    check={(text) => (text.trim() ? null : 'a name is needed')}
                    onKeep={(text) =>
                      dispatch(
                        edit(`group ${text}`, (draft) => {
                          draft.groups.find((g) => g.id === group.id)!.name = text
                        }),
                      )
                    }
                  />
                </div>
                <div className="mt-1.5 grid grid-cols-2 gap-x-3">
                  {site.channels.map((channel) => (
                    <label key={channel.id} className="flex min-h-6 items-center gap-2 text-note">
                      <input
                        type="checkbox"
                        className="size-4 accent-(--ink)"
                        checked={group.members.includes(channel.id)}
                        onChange={(event) => {
                          const on = event.target.checked
                          dispatch(
                            edit(`${channel.name} ${on ? 'joins' : 'leaves'} ${group.name}`, (draft) => {
                              const target = draft.groups.find((g) => g.id === group.id)!
                              target.members = draft.channels
                                .filter((one) => (one.id === channel.id ? on : target.members.includes(one.id)))
                                .map((one) => one.id)
                            }),
                          )
                        }}
                      />
                      {channel.name}
                    </label>
                  ))}
                </div>
                <button
                  type="button"
                  className="press-quiet mt-1 -ml-1.5"
                  onClick={() => dispatch(edit(`no group ${group.name}`, (draft) => removeGroup(draft, group.id)))}
                >
                  Take the group out
                </button>
              </div>
            )}
          </li>
        ))}
      </ul>
      <form
        className="mt-2 flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          if (!name.trim()) return
          dispatch(edit(`group ${name.trim()}`, (draft) => void addGroup(draft, name.trim(), [])))
          setName('')
        }}
      >
        <label className="w-56">
          <span className="field-label">New group</span>
          <input
            className="field"
            value={name}
            maxLength={60}
            placeholder="Everything in the hall"
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <button type="submit" className="press" disabled={!name.trim()}>
          Add it
        </button>
      </form>
    </section>
  )
}
