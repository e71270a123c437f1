import { ID_PATTERN, type HubWay } from '../../../core/site'
import { ChoiceField, TextField } from '../../parts/fields'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'

export function HubFields({ way }: { way: HubWay }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const entity = site.hubs.find((hub) => hub.id === way.hub)!.entities.find((candidate) => candidate.id === way.entity)!
  const change = (label: string, mutate: (target: typeof entity) => void) =>
    dispatch(
      edit(`${entity.name}: ${label}`, (draft) =>
        mutate(draft.hubs.find((h) => h.id === way.hub)!.entities.find((e) => e.id === entity.id)!),
      ),
    )
  return (
    <div className="grid grid-cols-2 gap-2">
      <TextField
        label="Entity name"
        value={entity.name}
        check={(text) => (text.trim() ? null : 'a name is needed')}
        onKeep={(name) =>
          change('name', (e) => {
            e.name = name
          })
        }
      />
      <TextField
        mono
        label="Topic level"
        value={entity.topic}
        check={(text) => (ID_PATTERN.test(text.trim()) ? null : 'a-z, 0-9 and -, at most 24')}
        onKeep={(topic) =>
          change('topic', (e) => {
            e.topic = topic
          })
        }
      />
      <ChoiceField
        label="State comes back"
        value={way.feedback}
        choices={[
          ['reports', 'yes, reported'],
          ['silent', 'never'],
          ['unknown', 'not known'],
        ]}
        onKeep={(feedback) =>
          dispatch(
            edit(`${entity.name}: feedback`, (draft) => {
              const target = draft.ways.find((w) => w.id === way.id)
              if (target?.kind === 'hub') target.feedback = feedback
            }),
          )
        }
      />
    </div>
  )
}
