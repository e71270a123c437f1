import { MAINS_CHOICES, type OldWiring, type Room, type Site } from '../../../core/site'
import { Fields, fieldsOf } from '../../parts/form'
import { useAppSelector } from '../../store/store'
import { useChange, withId } from '../../store/useChange'

const keyOf = ({ volts, hertz, phases }: Site['mains']): string =>
  MAINS_CHOICES.find(([, , one]) => one.volts === volts && one.hertz === hertz && one.phases === phases)?.[0] ?? ''

const mains = fieldsOf<Site['mains']>()
const MAINS = [
  mains.choice(
    'Mains of the site',
    {
      read: keyOf,
      write: (target, key) => {
        Object.assign(target, MAINS_CHOICES.find(([known]) => known === key)?.[2])
      },
    },
    [['', 'other'], ...MAINS_CHOICES.map(([key, words]) => [key, words] as const)],
    { what: 'mains', place: 'col-span-2' },
  ),
]

const SEEN: OldWiring = { switching: 'one-way', glow: false, neutral: true }
const room = fieldsOf<Room>()
/** A question of one room; answering one of them says that somebody has looked. */
const asked = <K extends keyof OldWiring>(
  key: K,
  label: string,
  choices: readonly (readonly [string, string, OldWiring[K]])[],
) =>
  room.choice(
    label,
    {
      read: ({ wall }) => (wall ? (choices.find(([, , value]) => value === wall[key])?.[0] ?? '') : ''),
      write: (target, picked) => {
        const value = choices.find(([known]) => known === picked)?.[2]
        if (value === undefined) delete target.wall
        else target.wall = { ...SEEN, ...target.wall, [key]: value }
      },
    },
    [['', 'not checked'], ...choices.map(([known, words]) => [known, words] as const)],
    { what: label.toLowerCase() },
  )
const WALL = [
  asked('switching', 'Switches at its lamp', [
    ['one-way', 'one', 'one-way'],
    ['two-way', 'two', 'two-way'],
    ['intermediate', 'three or more', 'intermediate'],
  ]),
  asked('glow', 'Glow lamp in a switch', [
    ['no', 'none', false],
    ['yes', 'fitted', true],
  ]),
  asked('neutral', 'Neutral in the box', [
    ['yes', 'present', true],
    ['no', 'absent', false],
  ]),
]

/** What the place brings: its mains, and what stands in the wall of each room already. */
export function PlaceFields() {
  const site = useAppSelector((state) => state.site.site)!
  const change = useChange('the site', (draft) => draft.mains)
  return (
    <section aria-label="Place">
      <h2 className="rule-head">Place: mains and existing wiring</h2>
      <div className="mt-2 grid grid-cols-2 @md:grid-cols-4 gap-2">
        <Fields rows={MAINS} of={site.mains} change={change} />
      </div>
      {site.rooms.length === 0 && (
        <p className="mt-2 text-note text-soft">
          No room yet: add one at a channel or a switch; its wiring is asked here.
        </p>
      )}
      {site.rooms.map((one) => (
        <RoomLine key={one.id} room={one} />
      ))}
    </section>
  )
}

function RoomLine({ room: one }: { room: Room }) {
  const change = useChange(one.name, (draft) => withId(draft.rooms, one.id))
  return (
    <fieldset className="mt-2 grid grid-cols-2 @md:grid-cols-4 items-end gap-2 border-t border-hair pt-2">
      <legend className="sr-only">{one.name}</legend>
      <span className="pb-1.5 font-semibold" aria-hidden="true">
        {one.name}
      </span>
      <Fields rows={WALL} of={one} change={change} />
    </fieldset>
  )
}
