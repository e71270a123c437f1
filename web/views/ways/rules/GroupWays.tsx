import { controllersOfGroup, pointOf, type Group, type GroupWay, type Site } from '../../../../core/site'
import { addGroupEntity, addGroupName, addGroupPoint, firstVoiceService, removeGroupWay } from '../../../../core/ways'
import { TextField } from '../../../parts/fields'
import { edit } from '../../../store/editing'
import { useAppDispatch, useAppSelector } from '../../../store/store'
import { withId } from '../../../store/useChange'

function wayWords(site: Site, way: GroupWay): string {
  switch (way.kind) {
    case 'app': {
      const point = pointOf(site, way.service, way.point)
      const on = site.controllers.find(({ id }) => id === point?.controller)?.name ?? ''
      return `vp${point?.vp} on ${on}, ${withId(site.services, way.service)?.name ?? ''}`
    }
    case 'hub':
      return `entity “${way.name}” of ${withId(site.hubs, way.hub)?.name ?? ''}`
    case 'voice':
      return `spoken name, by its ${way.through === 'hub' ? 'entity' : 'point'}`
  }
}

/** Changes of one group, each an edit that can be undone. */
function useGroup(group: Group) {
  const dispatch = useAppDispatch()
  return (what: string, change: (draft: Site, own: Group) => void) =>
    dispatch(edit(`${what} of ${group.name}`, (draft) => change(draft, withId(draft.groups, group.id)!)))
}

/** The ways to a whole group from outside: points on the phone, an entity, a spoken name. */
export function GroupWays({ group }: { group: Group }) {
  return (
    <div className="mt-2">
      <span className="field-label">Ways in</span>
      <ul>
        {(group.ways ?? []).map((way, at) => (
          <WayLine key={at} group={group} way={way} at={at} />
        ))}
      </ul>
      <MoreWays group={group} />
    </div>
  )
}

function WayLine({ group, way, at }: { group: Group; way: GroupWay; at: number }) {
  const onGroup = useGroup(group)
  const words = wayWords(
    useAppSelector((state) => state.site.site)!,
    way,
  )
  const rename = (name: string) =>
    onGroup('spoken name', (_, own) => {
      const target = own.ways?.[at]
      if (target?.kind === 'voice') target.name = name
    })
  return (
    <li className="flex items-center gap-2 border-b border-hair py-1 text-note">
      <span className="min-w-0 flex-1">{words}</span>
      {way.kind === 'voice' && (
        <TextField
          label="Spoken name"
          value={way.name}
          check={(text) => (text.trim() ? null : 'enter a name')}
          onKeep={rename}
        />
      )}
      <button
        type="button"
        className="press-quiet"
        aria-label={`Delete ${words}`}
        onClick={() => onGroup('way', (draft) => removeGroupWay(draft, group.id, at))}
      >
        Delete
      </button>
    </li>
  )
}

/** What the group has not yet: a point on each controller with members, an entity, a name. */
function MoreWays({ group }: { group: Group }) {
  const onGroup = useGroup(group)
  const site = useAppSelector((state) => state.site.site)!
  const ways = group.ways ?? []
  const missing = controllersOfGroup(site, group).filter(
    ({ id }) => !ways.some((way) => way.kind === 'app' && pointOf(site, way.service, way.point)?.controller === id),
  )
  const has = (kind: GroupWay['kind']) => ways.some((way) => way.kind === kind)
  const offers = [
    ...missing.map(({ id, name }) => ({
      words: `Point on ${name}`,
      press: () => onGroup('point', (draft, own) => void addGroupPoint(draft, own, id)),
    })),
    ...(has('hub')
      ? []
      : [{ words: 'Entity of the hub', press: () => onGroup('entity', (draft, own) => addGroupEntity(draft, own)) }]),
    ...(has('voice')
      ? []
      : [
          {
            words: 'Spoken name',
            press: () => onGroup('spoken name', (draft, own) => addGroupName(own, firstVoiceService(draft))),
          },
        ]),
  ]
  return (
    <div className="mt-1 flex flex-wrap gap-1.5">
      {offers.map(({ words, press }) => (
        <button key={words} type="button" className="press" onClick={press}>
          {words}
        </button>
      ))}
    </div>
  )
}
