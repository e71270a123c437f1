import { Bar, BarChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts'
import { modulesIn, boardIn, type SupplyProfile } from '../../../core/boards'
import { baseDrive, figure, MARGIN, optoWorked, pinLoad, supplyBudget, type SupplyBudget } from '../../../core/bench'
import type { Controller, SupplyPlan } from '../../../core/site'
import { ChoiceField, NumberField, TickField } from '../../parts/fields'
import { WorkedTable } from '../../parts/WorkedTable'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'

const NEW_PLAN: SupplyPlan = {
  source: 'boxed-5v-3a',
  board: null,
  coils: null,
  own: null,
  reservoirMicrofarads: 0,
  coilsFromLogic: false,
}

/** Steady, peak and start-up current of a controller against what its supply gives. */
export function SupplyTab({ controller }: { controller: Controller }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const supplies = modulesIn(site).filter((module): module is SupplyProfile => module.kind === 'supply')
  const { supply: plan, module } = controller
  const board = boardIn(site, controller.board)
  const budget = supplyBudget(site, controller)
  const change = (label: string, mutate: (plan: SupplyPlan) => void) =>
    dispatch(
      edit(`${controller.name}: ${label}`, (draft) => {
        const target = draft.controllers.find((c) => c.id === controller.id)!
        target.supply ??= { ...NEW_PLAN }
        mutate(target.supply)
      }),
    )
  if (!plan) {
    return (
      <div className="mt-4">
        <p className="text-soft">What feeds {controller.name} is not said yet, so its currents cannot be judged.</p>
        <button type="button" className="press mt-2" onClick={() => change('supply', () => undefined)}>
          Name a supply
        </button>
      </div>
    )
  }
  const converters = [
    ['', 'straight, no converter'] as const,
    ...supplies.filter((one) => one.role === 'converter').map((one) => [one.id, one.name] as const),
  ]
  const converter = (key: 'board' | 'coils' | 'own', label: string) => (
    <ChoiceField
      label={label}
      value={plan[key] ?? ''}
      choices={converters}
      onKeep={(id) =>
        change(`converter, ${key}`, (p) => {
          p[key] = id === '' ? null : id
        })
      }
    />
  )
  return (
    <div className="mt-3 space-y-5">
      <div className="grid grid-cols-4 gap-2">
        <ChoiceField
          label="Source"
          value={plan.source}
          choices={supplies.filter((one) => one.role === 'source').map((one) => [one.id, one.name] as const)}
          onKeep={(id) =>
            change('source', (p) => {
              p.source = id
            })
          }
        />
        {converter('board', 'To the board')}
        {converter('coils', 'To the coils')}
        {converter('own', 'To modem and the like')}
        <NumberField
          label="Reservoir"
          unit="µF"
          value={plan.reservoirMicrofarads}
          least={0}
          most={100_000}
          onKeep={(value) =>
            change('reservoir', (p) => {
              p.reservoirMicrofarads = value
            })
          }
        />
        <div className="col-span-2 self-end">
          <TickField
            label="Coils hang on the board's logic regulator"
            value={plan.coilsFromLogic}
            onKeep={(on) =>
              change('coils on the regulator', (p) => {
                p.coilsFromLogic = on
              })
            }
          />
        </div>
      </div>
      {budget && <BudgetChart budget={budget} />}
      {budget && (
        <section aria-label="Supply, worked">
          <h2 className="rule-head">Supply, worked</h2>
          <WorkedTable caption="Supply, worked" rows={budget.worked} />
        </section>
      )}
      {module && board && (
        <section aria-label="Drive, worked">
          <h2 className="rule-head">{module.input === 'opto' ? 'Opto input, worked' : 'Transistor stage, worked'}</h2>
          <WorkedTable
            caption="Drive, worked"
            rows={[
              ...(module.input === 'opto'
                ? optoWorked(module, board.logicVolts)
                : baseDrive(module.coilVolts, module.coilOhms, board.logicVolts).worked),
              ...(pinLoad(site, controller)?.worked ?? []),
            ]}
          />
        </section>
      )}
      <p className="border-l-2 border-error pl-2 text-note text-soft">
        A mains supply stands in the same box as mains: supply off and proved dead first; a licensed electrician where
        the law asks for one; local code decides.
      </p>
    </div>
  )
}

/** Shades of the consumers, in the order in which they are stacked and numbered. */
const SHADES = ['var(--brass-fill)', 'var(--rest)', 'var(--soft)'] as const

function BudgetChart({ budget }: { budget: SupplyBudget }) {
  const { shares, source } = budget
  const row = (name: string, of: 'steady' | 'peak') => ({
    name,
    ...Object.fromEntries(shares.map((share, i) => [`s${i}`, share[of]])),
  })
  // at start the board is at its peak; what is drawn on top of that are coils
  const boardPeak = shares[0]!.peak
  const start = (name: string, total: number) => ({
    name,
    s0: Math.min(boardPeak, total),
    s1: Math.max(0, total - boardPeak),
  })
  const rows = [
    row('steady', 'steady'),
    row('peak', 'peak'),
    start('start, at once', budget.startTogether),
    start('start, staggered', budget.startStaggered),
  ]
  const most = Math.max(source.milliamps, budget.peak, budget.startTogether) * 1.08
  return (
    <section aria-label="Current against the supply">
      <h2 className="rule-head">
        {source.name}: {figure(budget.peak)} of {source.milliamps} mA at the peak, {figure(budget.margin * 100)} % in
        hand ({MARGIN * 100} % wanted)
      </h2>
      <div className="mt-1 flex gap-4 text-small text-soft">
        {shares.map((share, i) => (
          <span key={share.name} className="flex items-center gap-1.5">
            <span
              aria-hidden="true"
              className="inline-block size-3 border border-ink"
              style={{ background: SHADES[i % SHADES.length], opacity: 1 - i * 0.15 }}
            />
            {i + 1}. {share.name}: {figure(share.steady)} / {figure(share.peak)} mA
          </span>
        ))}
      </div>
      <div
        className="h-44"
        role="img"
        aria-label={
          `Stacked bars in mA: steady ${figure(budget.steady)}, peak ${figure(budget.peak)}, start at once ` +
          `${figure(budget.startTogether)}, start staggered ${figure(budget.startStaggered)}; the supply ` +
          `gives ${source.milliamps}`
        }
      >
        <ResponsiveContainer width="100%" height="100%">
          <BarChart
            data={rows}
            layout="vertical"
            margin={{ left: 20, right: 24, top: 14, bottom: 0 }}
            barCategoryGap={6}
          >
            <XAxis
              type="number"
              domain={[0, Math.ceil(most / 100) * 100]}
              unit=" mA"
              tick={{ fill: 'var(--soft)', fontSize: 11.5 }}
              stroke="var(--bus)"
            />
            <YAxis
              type="category"
              dataKey="name"
              width={100}
              tick={{ fill: 'var(--ink)', fontSize: 12 }}
              stroke="var(--bus)"
            />
            {shares.map((share, i) => (
              <Bar
                key={share.name}
                dataKey={`s${i}`}
                stackId="draw"
                fill={SHADES[i % SHADES.length]}
                stroke="var(--ink)"
                strokeWidth={1}
                isAnimationActive={false}
              />
            ))}
            <ReferenceLine
              x={source.milliamps}
              stroke="var(--error)"
              strokeWidth={2}
              label={{ value: 'gives', position: 'top', fill: 'var(--error)', fontSize: 11.5 }}
            />
            <ReferenceLine
              x={source.milliamps * (1 - MARGIN)}
              stroke="var(--error)"
              strokeDasharray="4 3"
              label={{ value: 'less a quarter', position: 'top', fill: 'var(--error)', fontSize: 11.5 }}
            />
          </BarChart>
        </ResponsiveContainer>
      </div>
    </section>
  )
}
