import type { Hub, Watch } from '../../../../core/site'
import { usualWatch } from '../../../../core/ways'
import { Fields, fieldsOf } from '../../../parts/form'
import { edit } from '../../../store/editing'
import { useAppDispatch } from '../../../store/store'
import { useChange, withId } from '../../../store/useChange'

const field = fieldsOf<Watch>()
const FIELDS = [
  field.number('Heartbeat every', 'watchMs', { what: 'heartbeat', unit: 'ms', least: 1_000, most: 600_000 }),
  field.number('Local control after', 'graceMs', { what: 'grace', unit: 'ms more', least: 0, most: 600_000 }),
  field.number('Hub control again after', 'steadyMs', { what: 'steady', unit: 'ms steady', least: 0, most: 600_000 }),
  field.choice(
    'Watch runs on',
    'runsOn',
    [
      ['controllers', 'the controllers'],
      ['other machine', 'another machine'],
      ['hub machine', 'the hub’s own machine'],
    ],
    { what: 'place' },
  ),
  field.text(
    'Also needs these programs',
    {
      read: ({ programs }) => (programs ?? []).join(', '),
      write: (watch, text) => {
        const programs = text
          .split(',')
          .map((one) => one.trim())
          .filter(Boolean)
          .slice(0, 5)
        if (programs.length) watch.programs = programs
        else delete watch.programs
      },
    },
    { what: 'programs', hint: 'programs beside the hub, separated by commas', place: 'col-span-2' },
  ),
]

/** The heartbeat by which controllers judge whether the hub lives. */
export function WatchFields({ hub }: { hub: Hub }) {
  const dispatch = useAppDispatch()
  const change = useChange(`watch of ${hub.name}`, (draft) => withId(draft.hubs, hub.id)?.watch)
  const begin = edit(`watch of ${hub.name}`, (draft) => {
    withId(draft.hubs, hub.id)!.watch = usualWatch()
  })
  if (!hub.watch)
    return (
      <button type="button" className="press" onClick={() => dispatch(begin)}>
        Add watch
      </button>
    )
  return (
    <section aria-label="Watch" className="grid grid-cols-2 @md:grid-cols-4 gap-3 border-y border-hair py-2">
      <Fields rows={FIELDS} of={hub.watch} change={change} />
    </section>
  )
}
