import { useState } from 'react'
import { idFromName, type Hub, type HubId, type Service, type ServiceId, type Site } from '../../../../core/site'
import {
  cleanPasted,
  controllersOf,
  familyOf,
  keepServiceKind,
  modemQuota,
  quotasOf,
  removeHub,
  removeService,
  serviceKindIn,
  serviceKindsOf,
  usualWatch,
  voiceCount,
  type Quota,
} from '../../../../core/ways'
import { ChoiceField, NumberField, TextField, TickField } from '../../../parts/fields'
import { edit } from '../../../store/editing'
import { useAppDispatch, useAppSelector } from '../../../store/store'
import { PointsTable } from './PointsTable'

/** Services and hubs: what each kind holds and allows, how much of it the mapping uses, and the steps to set it up. */
export function ServicesTab() {
  const site = useAppSelector((state) => state.site.site)!
  const dispatch = useAppDispatch()
  const [picked, setPicked] = useState<string | null>(null)
  const all = [
    ...site.services.map((item) => ({ item, hub: false })),
    ...site.hubs.map((item) => ({ item, hub: true })),
  ]
  const current = all.find(({ item }) => item.id === picked) ?? all[0]
  const add = (kind: string) =>
    dispatch(
      edit('a service', (draft) => {
        const { name } = serviceKindIn(draft, kind)!
        const title = name.charAt(0).toUpperCase() + name.slice(1)
        if (familyOf(draft, kind) === 'hub')
          draft.hubs.push({
            kind,
            id: idFromName<string>(
              'hub',
              draft.hubs.map((h) => h.id),
              'hub',
            ) as HubId,
            name: title,
            host: '',
            entities: [],
            watch: null,
          })
        else
          draft.services.push({
            kind,
            id: idFromName<string>(
              kind,
              draft.services.map((s) => s.id),
              'service',
            ) as ServiceId,
            name: title,
            host: '',
            rulesOpen: kind === 'room-store' ? false : null,
            points: [],
            widgets: [],
          })
      }),
    )
  return (
    <div className="grid grid-cols-[11rem_1fr] gap-5">
      <div>
        <ul className="space-y-1">
          {all.map(({ item, hub }) => (
            <li key={item.id}>
              <button
                type="button"
                aria-pressed={current?.item.id === item.id}
                className="block w-full border-l-3 border-hair px-2 py-1 text-left hover:bg-panel aria-pressed:border-brass-fill aria-pressed:bg-panel"
                onClick={() => setPicked(item.id)}
              >
                <span className="block font-semibold">{item.name}</span>
                <span className="block text-small text-soft">
                  {serviceKindIn(site, item.kind)?.name ?? item.kind}
                  {hub ? '' : ''}
                </span>
              </button>
            </li>
          ))}
        </ul>
        <label className="mt-3 block">
          <span className="field-label">Add a service or hub</span>
          <select className="field" value="" onChange={(event) => event.target.value && add(event.target.value)}>
            <option value="">choose its kind …</option>
            {serviceKindsOf(site).map((kind) => (
              <option key={kind.id} value={kind.id}>
                {kind.name}
              </option>
            ))}
          </select>
        </label>
        <div className="mt-3">
          <NumberField
            label="Assumed changes a channel a day"
            value={site.day.changes}
            least={0}
            most={10_000}
            onKeep={(changes) =>
              dispatch(
                edit('assumed day', (draft) => {
                  draft.day.changes = changes
                }),
              )
            }
          />
        </div>
      </div>
      {current ? (
        <Detail key={current.item.id} item={current.item} hub={current.hub} site={site} />
      ) : (
        <p className="text-soft">No service yet. Fill the App or Hub column of the crossbar, or add one here.</p>
      )}
    </div>
  )
}

function Detail({ item, hub, site }: { item: Service | Hub; hub: boolean; site: Site }) {
  const dispatch = useAppDispatch()
  const kind = serviceKindIn(site, item.kind)
  const change = (label: string, mutate: (target: Service | Hub) => void) =>
    dispatch(
      edit(`${item.name}: ${label}`, (draft) =>
        mutate((hub ? draft.hubs : draft.services).find((one) => one.id === item.id)!),
      ),
    )
  const cleaned = cleanPasted('host', item.host)
  const quota = quotasOf(site).find((one) => one.service === item.id)
  const modems = site.controllers.flatMap((controller) =>
    controllersOf(site, item.id).includes(controller.id) ? (modemQuota(site, controller) ?? []) : [],
  )
  return (
    <div className="min-w-0 space-y-4">
      <div className="grid grid-cols-4 gap-3">
        <TextField
          label="Name"
          value={item.name}
          check={(text) => (text.trim() ? null : 'a name is needed')}
          onKeep={(name) =>
            change('name', (one) => {
              one.name = name
            })
          }
        />
        <ChoiceField
          label="Kind"
          value={item.kind}
          choices={serviceKindsOf(site)
            .filter((one) => (one.family === 'hub') === hub)
            .map((one) => [one.id, one.name] as const)}
          onKeep={(id) =>
            change('kind', (one) => {
              one.kind = id
            })
          }
        />
        <TextField
          mono
          label="Host"
          value={item.host}
          {...(cleaned.changes.length && item.host
            ? { hint: `would be cleaned: ${cleaned.changes.join(', ')}` }
            : { hint: 'name or address only' })}
          onKeep={(host) =>
            change('host', (one) => {
              one.host = host
            })
          }
        />
        <div className="self-center">
          {'rulesOpen' in item && item.rulesOpen !== null && (
            <TickField
              label="Open: anyone may read and write"
              value={item.rulesOpen}
              onKeep={(open) =>
                change('rules', (one) => {
                  if ('rulesOpen' in one) one.rulesOpen = open
                })
              }
            />
          )}
          <button
            type="button"
            className="press-quiet -ml-1.5"
            onClick={() =>
              dispatch(
                edit(`no ${item.name}`, (draft) => (hub ? removeHub(draft, item.id) : removeService(draft, item.id))),
              )
            }
          >
            Take it out, with its ways
          </button>
        </div>
      </div>
      {kind && (
        <p className="text-note text-soft">
          Holds {kind.holds.join(' · ')}. At a reconnection it {kind.reconnect}.
        </p>
      )}
      {'watch' in item && <WatchFields hub={item} />}
      {kind && <LimitFields site={site} item={item} quota={quota} />}
      {quota && quota.rows.length > 0 && <QuotaTable quota={quota} />}
      {modems.map((one) => (
        <QuotaTable key={one.service} quota={one} />
      ))}
      {'points' in item && kind?.family === 'service' && <PointsTable service={item} />}
      {kind && (
        <section aria-label="Steps">
          <h2 className="rule-head">To set it up</h2>
          <ol className="mt-1 list-decimal pl-5 text-note">
            {kind.steps.map((step) => (
              <li key={step}>{step}</li>
            ))}
          </ol>
          {kind.secrets.some((secret) => secret.shownOnce) && (
            <p className="mt-1 text-note text-warning">
              Shown a single time:{' '}
              {kind.secrets
                .filter((secret) => secret.shownOnce)
                .map((secret) => secret.label)
                .join(', ')}
              . Keep it under Credentials at once.
            </p>
          )}
        </section>
      )}
    </div>
  )
}

function WatchFields({ hub }: { hub: Hub }) {
  const dispatch = useAppDispatch()
  const change = (label: string, mutate: (watch: NonNullable<Hub['watch']>) => void) =>
    dispatch(
      edit(`watch of ${hub.name}: ${label}`, (draft) => {
        const { watch } = draft.hubs.find((one) => one.id === hub.id)!
        if (watch) mutate(watch)
      }),
    )
  if (!hub.watch)
    return (
      <button
        type="button"
        className="press"
        onClick={() =>
          dispatch(
            edit(`watch of ${hub.name}`, (draft) => {
              draft.hubs.find((one) => one.id === hub.id)!.watch = usualWatch()
            }),
          )
        }
      >
        Watch its heartbeat
      </button>
    )
  return (
    <section aria-label="Watch" className="grid grid-cols-4 gap-3 border-y border-hair py-2">
      <NumberField
        label="Heartbeat heard each"
        unit="ms"
        value={hub.watch.watchMs}
        least={1_000}
        most={600_000}
        onKeep={(ms) =>
          change('heartbeat', (w) => {
            w.watchMs = ms
          })
        }
      />
      <NumberField
        label="Local after"
        unit="ms more"
        value={hub.watch.graceMs}
        least={0}
        most={600_000}
        onKeep={(ms) =>
          change('grace', (w) => {
            w.graceMs = ms
          })
        }
      />
      <NumberField
        label="Trusted again after"
        unit="ms steady"
        value={hub.watch.steadyMs}
        least={0}
        most={600_000}
        onKeep={(ms) =>
          change('steady', (w) => {
            w.steadyMs = ms
          })
        }
      />
      <ChoiceField
        label="Watch runs on"
        value={hub.watch.runsOn}
        choices={[
          ['controllers', 'the controllers'],
          ['other machine', 'another machine'],
          ['hub machine', 'the hub’s own machine'],
        ]}
        onKeep={(runsOn) =>
          change('place', (w) => {
            w.runsOn = runsOn
          })
        }
      />
    </section>
  )
}

const LIMITS = [
  ['devices', 'Devices'],
  ['points', 'Points a device'],
  ['widgets', 'Widgets a device'],
  ['nameLength', 'Name length'],
  ['updateMs', 'Least time between values, ms'],
  ['messagesDay', 'Messages a day'],
  ['messagesMonth', 'Messages a month'],
  ['bytesMonth', 'Bytes a month'],
] as const

/** The plan's limits beside what the mapping uses; a corrected limit makes a copy of the kind in the site. */
function LimitFields({ site, item, quota }: { site: Site; item: Service | Hub; quota: Quota | undefined }) {
  const dispatch = useAppDispatch()
  const kind = serviceKindIn(site, item.kind)!
  const perDevice = (list: readonly { controller: string }[]): number =>
    Math.max(0, ...controllersOf(site, item.id).map((id) => list.filter((one) => one.controller === id).length))
  const used: Partial<Record<(typeof LIMITS)[number][0], number>> = {
    devices: kind.family === 'voice' ? voiceCount(site, item.id) : controllersOf(site, item.id).length,
    ...('points' in item
      ? {
          points: perDevice(item.points),
          widgets: perDevice(
            item.widgets.map((widget) => ({
              controller: item.points.find((point) => point.id === widget.point)?.controller ?? '',
            })),
          ),
          nameLength: Math.max(0, ...item.points.map((point) => point.name.length)),
        }
      : {}),
    ...(quota ? { messagesDay: quota.perDay, messagesMonth: quota.perMonth, bytesMonth: quota.bytesPerMonth } : {}),
    ...(quota?.fastestMs ? { updateMs: quota.fastestMs } : {}),
  }
  return (
    <section aria-label="Limits of the plan">
      <h2 className="rule-head">Plan: used, of what it allows</h2>
      <div className="mt-1 grid grid-cols-4 gap-x-3 gap-y-2">
        {LIMITS.map(([id, label]) => {
          const limit = kind.limits[id]
          const now = used[id]
          const over = limit !== null && now !== undefined && (id === 'updateMs' ? now < limit : now > limit)
          return (
            <div key={id}>
              <TextField
                mono
                label={label}
                value={limit === null ? '' : String(limit)}
                check={(text) =>
                  /^\d{0,9}$/.test(text.trim()) && text.trim() !== '0' ? null : 'a whole number, or nothing'
                }
                onKeep={(text) =>
                  dispatch(
                    edit(`${kind.name}: ${label.toLowerCase()}`, (draft) => {
                      const copy = structuredClone(serviceKindIn(site, item.kind)!)
                      copy.limits[id] = text.trim() === '' ? null : Number(text)
                      keepServiceKind(draft, copy)
                    }),
                  )
                }
              />
              {now !== undefined && (
                <p className={`mt-0.5 text-small ${over ? 'font-semibold text-error' : 'text-soft'}`}>
                  {over ? '✕ ' : ''}
                  {now.toLocaleString('en')} used
                </p>
              )}
            </div>
          )
        })}
      </div>
    </section>
  )
}

/** Messages and bytes of each way, with its share drawn. */
function QuotaTable({ quota }: { quota: Quota }) {
  const rows = [...quota.rows].sort((a, b) => b.share - a.share)
  const [most, setMost] = useState(8)
  return (
    <section aria-label={`Use of ${quota.name}`}>
      <h2 className="rule-head">
        {quota.name}: {quota.perDay.toLocaleString('en')} messages a day, {(quota.bytesPerMonth / 1e6).toFixed(1)} MB a
        month
      </h2>
      <table className="mt-1 w-full text-note">
        <thead className="text-left text-small text-soft">
          <tr>
            <th className="font-normal">what</th>
            <th className="font-normal">why</th>
            <th className="text-right font-normal">a day</th>
            <th className="text-right font-normal">kB a month</th>
            <th className="w-40 pl-3 font-normal">share</th>
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, most).map((row, i) => (
            <tr key={i} className="border-t border-hair">
              <td>{row.name}</td>
              <td className="text-soft">{row.reason}</td>
              <td className="text-right font-mono">{row.perDay.toLocaleString('en')}</td>
              <td className="text-right font-mono">{Math.round(row.bytesPerMonth / 1000).toLocaleString('en')}</td>
              <td className="pl-3">
                <span className="flex items-center gap-1.5">
                  <span className="block h-2 bg-brass-fill" style={{ width: `${Math.max(1, row.share * 100)}px` }} />{' '}
                  <span className="font-mono text-small">{(row.share * 100).toFixed(1)} %</span>
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length > most && (
        <button type="button" className="press-quiet -ml-1.5" onClick={() => setMost(rows.length)}>
          {rows.length - most} more
        </button>
      )}
    </section>
  )
}
