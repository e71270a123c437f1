import type { Hub, Service, ServiceProfile, Site } from '../../../../core/site'
import { removeHub, removeService } from '../../../../core/ways'
import { cleanPasted, controllersOf, modemQuota, quotasOf } from '../../../../core/services'
import { familyOf, serviceKindIn, serviceKindsOf } from '../../../../core/services'
import { Fields, fieldsOf, needsName } from '../../../parts/form'
import { takeOut } from '../../../store/takeOut'
import { useAppDispatch, useAppSelector } from '../../../store/store'
import { useChange, withId } from '../../../store/useChange'
import { LimitFields } from './LimitFields'
import { PointsTable } from './PointsTable'
import { QuotaTable } from './QuotaTable'
import { WatchFields } from './WatchFields'
import { WireFields } from './WireFields'

type Item = Service | Hub
const isHub = (item: Item): item is Hub => 'watch' in item

const field = fieldsOf<Item>()
function hostHint({ host }: Item): string {
  const { changes } = cleanPasted('host', host)
  return changes.length && host
    ? `contains extra text (${changes.join(', ')}): enter the name only`
    : 'name or address only'
}
const fieldsFor = (kinds: readonly ServiceProfile[]) => [
  field.text('Name', 'name', { check: needsName }),
  field.choice(
    'Kind',
    'kind',
    kinds.map((kind) => [kind.id, kind.name] as const),
  ),
  field.text('Host', 'host', { mono: true, hint: hostHint }),
]
const asService = (item: Item): Service | null => (isHub(item) ? null : item)
/** Where a voice service is linked: by keys of its own, or through an account that the maker has anyway. */
const accountField = (site: Site, id: string) => {
  const holders = [...site.services.filter((one) => one.id !== id), ...site.hubs]
  return field.choice(
    'Linked',
    {
      read: (item) => (asService(item)?.linkedThrough ?? '') as string,
      write: (item, through) => {
        const service = asService(item)
        if (!service) return
        if (through === '') delete service.linkedThrough
        else service.linkedThrough = through as NonNullable<Service['linkedThrough']>
      },
    },
    [['', 'by its own keys'], ...holders.map((one) => [one.id as string, `by your account at ${one.name}`] as const)],
    { what: 'link', when: (item) => familyOf(site, item.kind) === 'voice' },
  )
}
const SCREENS = field.choice(
  'Screens on the phone',
  {
    read: (item) => asService(item)?.screens ?? 'one',
    write: (item, screens) => {
      const service = asService(item)
      if (!service) return
      if (screens === 'rooms') service.screens = screens
      else delete service.screens
    },
  },
  [
    ['one', 'one for all'],
    ['rooms', 'one per room'],
  ],
  { what: 'screens', when: (item) => (asService(item)?.widgets.length ?? 0) > 0 },
)
const OUTAGE = field.choice(
  'After an outage',
  {
    read: (item) => (asService(item)?.outage ?? '') as string,
    write: (item, outage) => {
      const service = asService(item)
      if (!service) return
      if (outage === 'local' || outage === 'service') service.outage = outage
      else delete service.outage
    },
  },
  [
    ['', 'as the controller does'],
    ['local', 'the controller wins'],
    ['service', 'the service wins'],
  ],
  { what: 'after an outage', when: (item) => (asService(item)?.points.length ?? 0) > 0 },
)
const RULES = [
  field.tick(
    'Open: anyone may read and write',
    {
      read: (item) => !isHub(item) && item.rulesOpen === true,
      write: (item, open) => {
        if (!isHub(item)) item.rulesOpen = open
      },
    },
    { what: 'rules', when: (item) => !isHub(item) && item.rulesOpen !== null },
  ),
]

/**
 * A service or a hub: its settings, what its plan allows and the mapping uses, its points, and the steps to set it up.
 */
export function ServiceDetail({ item }: { item: Item }) {
  const site = useAppSelector((state) => state.site.site)!
  const kind = serviceKindIn(site, item.kind)
  const quota = quotasOf(site).find((one) => one.service === item.id)
  const own = new Set(controllersOf(site, item.id))
  const modems = site.controllers.flatMap((controller) =>
    own.has(controller.id) ? (modemQuota(site, controller) ?? []) : [],
  )
  return (
    <div className="min-w-0 space-y-4" data-thing={item.id}>
      <Settings item={item} />
      {kind && (
        <p className="text-note text-soft">
          Holds {kind.holds.join(' · ')}. At a reconnection it {kind.reconnect}.
        </p>
      )}
      {isHub(item) && <WatchFields hub={item} />}
      {kind && <LimitFields kind={kind} item={item} quota={quota} />}
      {kind && <WireFields kind={kind} service={item.id} />}
      {quota && quota.rows.length > 0 && <QuotaTable quota={quota} />}
      {modems.map((one) => (
        <QuotaTable key={one.service} quota={one} />
      ))}
      {!isHub(item) && kind?.family === 'service' && <PointsTable service={item} />}
      {kind && <Steps kind={kind} />}
    </div>
  )
}

function Settings({ item }: { item: Item }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const hub = isHub(item)
  const change = useChange(item.name, (draft) => withId<Item>(hub ? draft.hubs : draft.services, item.id))
  const kinds = serviceKindsOf(site).filter((one) => (one.family === 'hub') === hub)
  const out = takeOut(item.name, (draft) => (hub ? removeHub(draft, item.id) : removeService(draft, item.id)))
  return (
    <div className="grid grid-cols-2 @md:grid-cols-4 gap-3">
      <Fields rows={[...fieldsFor(kinds), accountField(site, item.id), SCREENS, OUTAGE]} of={item} change={change} />
      <div className="self-center">
        <Fields rows={RULES} of={item} change={change} />
        <button type="button" className="press-quiet -ml-1.5" onClick={() => dispatch(out)}>
          Delete service and its ways
        </button>
      </div>
    </div>
  )
}

function Steps({ kind }: { kind: ServiceProfile }) {
  const once = kind.secrets.filter((secret) => secret.shownOnce).map((secret) => secret.label)
  return (
    <section aria-label="Steps">
      <h2 className="rule-head">Set-up steps</h2>
      <ol className="mt-1 list-decimal pl-5 text-note">
        {kind.steps.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </ol>
      {once.length > 0 && (
        <p className="mt-1 text-note text-warning">
          Shown one time only: {once.join(', ')}. Store it under Credentials at once.
        </p>
      )}
    </section>
  )
}
