import { useState } from 'react'
import { boardsIn, modulesIn, type BoardProfile, type ModuleProfile } from '../../../core/boards'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { ProfileEditor } from './ProfileEditor'
import { keepProfile, type Profile } from './profiles'

/** Board and module profiles: ours to be corrected, the maker's own to be added, by form and as JSON. */
export function ProfilesTab() {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const all: Profile[] = [...boardsIn(site), ...modulesIn(site)]
  const own = new Set([...site.profiles.boards, ...site.profiles.modules].map((profile) => profile.id))
  const [picked, setPicked] = useState<string>(all[0]!.id)
  const profile = all.find((one) => one.id === picked) ?? all[0]!
  const save = (next: Profile) => {
    dispatch(edit(`profile ${next.name}`, (draft) => keepProfile(draft, next)))
    setPicked(next.id)
  }
  const remove = () =>
    dispatch(
      edit(`delete profile ${profile.name}`, ({ profiles }) => {
        const others = <T extends BoardProfile | ModuleProfile>(list: T[]) =>
          list.filter((one) => one.id !== profile.id)
        profiles.boards = others(profiles.boards)
        profiles.modules = others(profiles.modules)
      }),
    )
  return (
    <div className="mt-3 grid @3xl:grid-cols-[17rem_minmax(0,1fr)] gap-5">
      <ProfileList all={all} own={own} picked={profile.id} onPick={setPicked} />
      <ProfileEditor
        key={`${profile.id}/${JSON.stringify(profile).length}`}
        profile={profile}
        taken={all.map((one) => one.id)}
        onSave={save}
        onDelete={own.has(profile.id) ? remove : null}
      />
    </div>
  )
}

interface ListProps {
  readonly all: readonly Profile[]
  readonly own: ReadonlySet<string>
  readonly picked: string
  readonly onPick: (id: string) => void
}

function ProfileList({ all, own, picked, onPick }: ListProps) {
  const [find, setFind] = useState('')
  const shown = all.filter((profile) => `${profile.name} ${profile.id}`.toLowerCase().includes(find.toLowerCase()))
  return (
    <div>
      <label className="block">
        <span className="field-label">Find a profile</span>
        <input className="field" value={find} onChange={(event) => setFind(event.target.value)} />
      </label>
      <ul className="mt-2 max-h-[34rem] overflow-auto" tabIndex={0} aria-label="Profiles">
        {shown.map((one) => (
          <li key={one.id}>
            <button
              type="button"
              aria-pressed={one.id === picked}
              className={
                'min-h-6 w-full border-b border-hair py-1 text-left text-note leading-tight hover:bg-panel ' +
                'aria-pressed:bg-panel aria-pressed:font-semibold'
              }
              onClick={() => onPick(one.id)}
            >
              {one.name}
              {own.has(one.id) && <span className="ml-1 text-brass">(yours)</span>}
            </button>
          </li>
        ))}
      </ul>
    </div>
  )
}
