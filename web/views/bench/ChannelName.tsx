import { useEffect, useRef, useState } from 'react'
import type { Channel } from '../../../core/site'
import { namesakesOf, renameAlong, type Namesake } from '../../../core/ways'
import { TextField } from '../../parts/fields'
import { needsName } from '../../parts/form'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'

/** Renames it, and what is ticked with it, in one edit; false: the channel is not there any more. */
function useRename(channel: Channel) {
  const dispatch = useAppDispatch()
  return (to: string, along: ReadonlySet<string>): boolean => {
    let there = false
    dispatch(
      edit(`${channel.name}: name`, (draft) => {
        there = draft.channels.some(({ id }) => id === channel.id)
        renameAlong(draft, channel.id, to, along)
      }),
    )
    return there
  }
}

/**
 * The name of a channel. Where other things bear it, they are offered along before it is kept; one who goes elsewhere
 * first renames the channel alone, so that nothing typed is lost.
 */
export function ChannelName({ channel }: { channel: Channel }) {
  const site = useAppSelector((state) => state.site.site)!
  const rename = useRename(channel)
  const [wanted, setWanted] = useState<string | null>(null)
  const namesakes = namesakesOf(site, channel.id)
  const keep = (to: string) => {
    if (namesakes.length === 0) return rename(to, new Set())
    setWanted(to)
  }
  const done = (along: ReadonlySet<string>) => {
    setWanted(null)
    if (wanted !== null) rename(wanted, along)
  }
  const latest = useRef(done)
  useEffect(() => {
    latest.current = done
  })
  useEffect(() => () => latest.current(new Set()), [])
  return (
    <>
      <TextField label="Name" value={wanted ?? channel.name} check={needsName} onKeep={keep} />
      {wanted !== null && <Along key={wanted} to={wanted} namesakes={namesakes} onDone={done} />}
    </>
  )
}

interface AlongProps {
  readonly to: string
  readonly namesakes: readonly Namesake[]
  readonly onDone: (along: ReadonlySet<string>) => void
}

/** What bears the old name, to be ticked. */
function Along({ to, namesakes, onDone }: AlongProps) {
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set())
  const along = new Set(namesakes.map(({ key }) => key).filter((key) => !left.has(key)))
  const turn = (key: string) =>
    setLeft((before) => new Set(before.has(key) ? [...before].filter((k) => k !== key) : [...before, key]))
  return (
    <fieldset className="col-span-full border-l-3 border-brass-fill bg-panel px-3 py-2">
      <legend className="float-left mb-1 w-full">These have the old name. Rename them to “{to}” too?</legend>
      {namesakes.map(({ key, what, name }) => (
        <label key={key} className="clear-left flex min-h-6 items-center gap-2">
          <input
            type="checkbox"
            className="size-4 accent-(--ink)"
            checked={along.has(key)}
            onChange={() => turn(key)}
          />
          {name} <span className="text-small text-soft">{what}</span>
        </label>
      ))}
      <div className="mt-1.5 flex gap-2">
        <button type="button" className="press-main" disabled={along.size === 0} onClick={() => onDone(along)}>
          Rename these too
        </button>
        <button type="button" className="press" onClick={() => onDone(new Set())}>
          Rename only the channel
        </button>
      </div>
    </fieldset>
  )
}
