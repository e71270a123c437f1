import { ID_PATTERN, type Entity, type HubWay } from '../../../core/site'
import { Fields, fieldsOf, needsName } from '../../parts/form'
import { useAppSelector } from '../../store/store'
import { useChange, withId } from '../../store/useChange'
import { FEEDBACK_CHOICES } from './feedback'

const entityField = fieldsOf<Entity>()
const ENTITY = [
  entityField.text('Entity name', 'name', { what: 'name', check: needsName }),
  entityField.text('Topic level', 'topic', {
    what: 'topic',
    mono: true,
    check: (text) => (ID_PATTERN.test(text.trim()) ? null : 'a-z, 0-9 and -, at most 24'),
  }),
]
const FEEDBACK = [fieldsOf<HubWay>().choice('Feedback', 'feedback', FEEDBACK_CHOICES, { what: 'feedback' })]

export function HubFields({ way }: { way: HubWay }) {
  const hubs = useAppSelector((state) => state.site.site!.hubs)
  const entity = withId(withId(hubs, way.hub)!.entities, way.entity)!
  const change = useChange(entity.name, (draft) => withId(withId(draft.hubs, way.hub)?.entities ?? [], entity.id))
  const changeWay = useChange(entity.name, (draft) => {
    const target = withId(draft.ways, way.id)
    return target?.kind === 'hub' ? target : undefined
  })
  return (
    <div className="grid grid-cols-2 gap-2">
      <Fields rows={ENTITY} of={entity} change={change} />
      <Fields rows={FEEDBACK} of={way} change={changeWay} />
    </div>
  )
}
