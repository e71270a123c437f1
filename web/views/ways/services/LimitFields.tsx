import type { Hub, Limits, Service, ServiceProfile } from '../../../../core/site'
import { limitExceeded, limitsUsed, setLimit, type Quota } from '../../../../core/services'
import { TextField } from '../../../parts/fields'
import { edit } from '../../../store/editing'
import { useAppDispatch, useAppSelector } from '../../../store/store'

/** How the mapping's own figure reads beside a limit: most are counts, two are the extreme of many. */
const usedWords = (limit: keyof Limits, used: number): string => {
  const figure = used.toLocaleString('en')
  if (limit === 'nameLength') return `longest ${figure}`
  return limit === 'updateMs' ? `shortest ${figure}` : `${figure} used`
}

const LIMITS: readonly (readonly [keyof Limits, string])[] = [
  ['devices', 'Devices'],
  ['points', 'Points per device'],
  ['widgets', 'Widgets per device'],
  ['nameLength', 'Name length'],
  ['updateMs', 'Minimum update interval (ms)'],
  ['messagesDay', 'Messages per day'],
  ['messagesMonth', 'Messages per month'],
  ['bytesMonth', 'Bytes per month'],
]

interface Props {
  readonly kind: ServiceProfile
  readonly item: Service | Hub
  readonly quota: Quota | undefined
}

/** The plan's limits beside what the mapping uses; a corrected limit makes a copy of the kind in the site. */
export function LimitFields({ kind, item, quota }: Props) {
  const site = useAppSelector((state) => state.site.site)!
  const used = limitsUsed(site, item, quota)
  return (
    <section aria-label="Plan limits">
      <h2 className="rule-head">Plan limits (used / allowed)</h2>
      <div className="mt-1 grid grid-cols-2 @md:grid-cols-4 gap-x-3 gap-y-2">
        {LIMITS.map(([limit, label]) => (
          <LimitField key={limit} kind={kind} limit={limit} label={label} used={used[limit]} />
        ))}
      </div>
    </section>
  )
}

interface FieldProps {
  readonly kind: ServiceProfile
  readonly limit: keyof Limits
  readonly label: string
  readonly used: number | undefined
}

function LimitField({ kind, limit, label, used }: FieldProps) {
  const dispatch = useAppDispatch()
  const allowed = kind.limits[limit]
  const over = used !== undefined && limitExceeded(limit, allowed, used)
  const keep = (text: string) => {
    const value = text.trim() === '' ? null : Number(text)
    dispatch(edit(`${kind.name}: ${label.toLowerCase()}`, (draft) => setLimit(draft, kind.id, limit, value)))
  }
  return (
    <div>
      <TextField
        mono
        label={label}
        value={allowed === null ? '' : String(allowed)}
        check={(text) => (/^\d{0,12}$/.test(text.trim()) && text.trim() !== '0' ? null : 'a whole number, or empty')}
        onKeep={keep}
      />
      {used !== undefined && (
        <p className={`mt-0.5 text-small ${over ? 'font-semibold text-error' : 'text-soft'}`}>
          {`${over ? '✕ ' : ''}${usedWords(limit, used)}`}
        </p>
      )}
    </div>
  )
}
