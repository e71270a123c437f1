import { useState } from 'react'
import { HOURS_OF_YEAR, RATE_KEYS, rateBy, rateWords, unavailability, type Rate } from '../../../../core/faults'
import { NO_FAILURES, type Failures, type Site } from '../../../../core/site'
import { TextField, TickField } from '../../../parts/fields'
import { ViewHead } from '../../../parts/ViewHead'
import { useAppSelector } from '../../../store/store'
import { useChange, type Change } from '../../../store/useChange'
import { hoursWords } from '../words'
import { Strips } from './Strips'

/** Failures of this site in a draft, which has none until something is entered. */
function failuresOf(draft: Site): Failures {
  draft.failures ??= structuredClone(NO_FAILURES)
  return draft.failures
}

/** How often each kind of part fails, how long it is out, and who says so; and what hangs together in this house. */
export function FailureRates() {
  const site = useAppSelector((state) => state.site.site)!
  const change = useChange<Failures>('Failures', failuresOf)
  const [open, setOpen] = useState<string | null>(null)
  return (
    <div className="px-5 py-2" data-testid="rates">
      <ViewHead
        title="Failure rates"
        note="Mean time between two failures, and mean time until it works again. What ships is common practice, not measured."
      />
      <div className="mt-3 grid gap-x-8 gap-y-4 @4xl:grid-cols-[minmax(0,1.6fr)_minmax(0,1fr)]">
        <Table site={site} change={change} open={open} onOpen={setOpen} />
        <div>
          <Batteries site={site} change={change} />
          <Strips site={site} change={change} />
        </div>
      </div>
    </div>
  )
}

interface TableProps {
  readonly site: Site
  readonly change: Change<Failures>
  readonly open: string | null
  readonly onOpen: (key: string | null) => void
}

const Table = ({ site, change, open, onOpen }: TableProps) => (
  <div className="overflow-x-auto">
    <table className="sheet w-full">
      <thead>
        <tr>
          <th>Part</th>
          <th className="!text-right">Between failures</th>
          <th className="!text-right">Out for</th>
          <th className="!text-right">Out per year</th>
          <th>Source</th>
          <th>
            <span className="sr-only">Change</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {RATE_KEYS.map((key) => (
          <Row key={key} site={site} id={key} change={change} isOpen={open === key} onOpen={onOpen} />
        ))}
      </tbody>
    </table>
  </div>
)

function Row({ site, id, change, isOpen, onOpen }: Omit<TableProps, 'open'> & { id: string; isOpen: boolean }) {
  const rate = rateBy(site, id)
  const isOwn = site.failures?.rates[id] !== undefined
  return (
    <>
      <tr className={isOpen ? 'bg-panel' : ''}>
        <td className={isOwn ? 'font-semibold' : ''}>{rateWords(id)}</td>
        <td className="text-right font-mono whitespace-nowrap">{between(rate)}</td>
        <td className="text-right font-mono whitespace-nowrap">{rate.repairHours} h</td>
        <td className="text-right font-mono whitespace-nowrap">{hoursWords(unavailability(rate) * HOURS_OF_YEAR)}</td>
        <td className="max-w-40 text-small whitespace-nowrap text-soft">{rate.source}</td>
        <td className="text-right">
          <button
            type="button"
            className="press-quiet"
            aria-expanded={isOpen}
            aria-label={`${isOpen ? 'Close' : 'Change'}: ${rateWords(id)}`}
            onClick={() => onOpen(isOpen ? null : id)}
          >
            {isOpen ? 'Close' : 'Change'}
          </button>
        </td>
      </tr>
      {isOpen && (
        <tr className="bg-panel">
          <td colSpan={6}>
            <OwnRate id={id} rate={rate} isOwn={isOwn} change={change} />
          </td>
        </tr>
      )}
    </>
  )
}

const between = ({ betweenHours }: Rate): string =>
  betweenHours >= HOURS_OF_YEAR
    ? unit(betweenHours / HOURS_OF_YEAR, 'year')
    : betweenHours >= 48
      ? unit(betweenHours / 24, 'day')
      : `${round(betweenHours)} h`
const unit = (value: number, one: string): string => `${round(value)} ${one}${round(value) === '1' ? '' : 's'}`
const round = (value: number): string => String(Math.round(value * 10) / 10)

interface OwnProps {
  readonly id: string
  readonly rate: Rate
  readonly isOwn: boolean
  readonly change: Change<Failures>
}

function OwnRate({ id, rate, isOwn, change }: OwnProps) {
  const what = lower(rateWords(id))
  const keep = (changes: Partial<Rate>) =>
    change(`rate of ${what}`, (failures) => {
      const source = rate.source === 'common practice' ? 'own figure' : rate.source
      failures.rates[id] = { betweenHours: rate.betweenHours, repairHours: rate.repairHours, source, ...changes }
    })
  return (
    <div className="grid max-w-xl gap-3 py-1 @xl:grid-cols-3">
      <TextField
        label="Between failures"
        unit="days"
        numeric
        mono
        value={round(rate.betweenHours / 24)}
        check={within(1 / 24, 40_000_000)}
        onKeep={(text) => keep({ betweenHours: Number(text) * 24 })}
      />
      <TextField
        label="Out for"
        unit="h"
        numeric
        mono
        value={String(rate.repairHours)}
        check={within(0.01, 100_000)}
        onKeep={(text) => keep({ repairHours: Number(text) })}
      />
      <TextField
        label="Figures from"
        value={rate.source}
        check={(text) => (text.trim() ? null : 'say where the figures come from')}
        onKeep={(source) => keep({ source })}
      />
      {isOwn && <Shipped id={id} what={what} change={change} />}
    </div>
  )
}

const Shipped = ({ id, what, change }: { id: string; what: string; change: Change<Failures> }) => (
  <button
    type="button"
    className="press-quiet justify-self-start"
    onClick={() => change(`rate of ${what} as shipped`, (failures) => void delete failures.rates[id])}
  >
    Use what ships
  </button>
)

const within = (least: number, most: number) => (text: string) => {
  const value = Number(text)
  return text.trim() !== '' && value >= least && value <= most ? null : `a number from ${round(least)} to ${most}`
}
const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1)

const BOXES = [
  { box: 'router', label: 'The router is on a battery' },
  { box: 'hub-machine', label: 'The hub machine is on a battery' },
] as const

/** What goes on while the mains is out. */
const Batteries = ({ site, change }: { site: Site; change: Change<Failures> }) => (
  <section aria-label="Batteries">
    <h2 className="rule-head">Batteries</h2>
    <div className="mt-1 space-y-1">
      {BOXES.map(({ box, label }) => (
        <TickField
          key={box}
          label={label}
          value={site.failures?.onBattery.includes(box) ?? false}
          onKeep={(on) =>
            change(`${lower(label)}: ${on ? 'yes' : 'no'}`, (failures) => {
              const others = failures.onBattery.filter((one) => one !== box)
              failures.onBattery = on ? [...others, box] : others
            })
          }
        />
      ))}
    </div>
  </section>
)
