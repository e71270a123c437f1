import { Bar, BarChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts'
import { figure, MARGIN, type SupplyBudget } from '../../../core/electrics'

/** Shades of the consumers, in the order in which they are stacked and numbered. */
const SHADES = ['var(--brass-fill)', 'var(--rest)', 'var(--soft)'] as const
const shade = (i: number) => SHADES[i % SHADES.length]!
const TICK = { fill: 'var(--soft)', fontSize: 11.5 }

/** A bar each for steady, peak, and both ways of starting; s0, s1 … are the consumers, stacked. */
function barsOf({ shares, startTogether, startStaggered }: SupplyBudget) {
  const bar = (name: string, of: 'steady' | 'peak') => ({
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
  return [
    bar('steady', 'steady'),
    bar('peak', 'peak'),
    start('start, all at once', startTogether),
    start('start, staggered', startStaggered),
  ]
}

const spokenBars = (budget: SupplyBudget): string =>
  `Stacked bars in mA: steady ${figure(budget.steady)}, peak ${figure(budget.peak)}, ` +
  `start at once ${figure(budget.startTogether)}, start staggered ${figure(budget.startStaggered)}; ` +
  `supply maximum ${budget.source.milliamps}`

/** What is drawn, stacked against what the supply gives, and against that less its margin. */
export function BudgetChart({ budget }: { budget: SupplyBudget }) {
  const { source } = budget
  return (
    <section aria-label="Current against the supply">
      <h2 className="rule-head">
        {source.name}: {figure(budget.peak)} of {source.milliamps} mA at the peak, {figure(budget.margin * 100)} %
        headroom ({MARGIN * 100} % recommended)
      </h2>
      <Legend shares={budget.shares} />
      <div className="h-44" role="img" aria-label={spokenBars(budget)}>
        <Bars budget={budget} />
      </div>
    </section>
  )
}

function Legend({ shares }: Pick<SupplyBudget, 'shares'>) {
  return (
    <div className="mt-1 flex gap-4 text-small text-soft">
      {shares.map((share, i) => (
        <span key={share.name} className="flex items-center gap-1.5">
          <span
            aria-hidden="true"
            className="inline-block size-3 border border-ink"
            style={{ background: shade(i), opacity: 1 - i * 0.15 }}
          />
          {i + 1}. {share.name}: {figure(share.steady)} / {figure(share.peak)} mA
        </span>
      ))}
    </div>
  )
}

const line = (value: string) => ({ value, position: 'top' as const, fill: 'var(--error)', fontSize: 11.5 })
const NAME_TICK = { fill: 'var(--ink)', fontSize: 12 }
const EDGES = { left: 20, right: 24, top: 14, bottom: 0 }

function Bars({ budget }: { budget: SupplyBudget }) {
  const { shares, source } = budget
  const most = Math.max(source.milliamps, budget.peak, budget.startTogether) * 1.08
  return (
    <ResponsiveContainer width="100%" height="100%">
      <BarChart data={barsOf(budget)} layout="vertical" margin={EDGES} barCategoryGap={6}>
        <XAxis type="number" domain={[0, Math.ceil(most / 100) * 100]} unit=" mA" tick={TICK} stroke="var(--bus)" />
        <YAxis type="category" dataKey="name" width={100} tick={NAME_TICK} stroke="var(--bus)" />
        {shares.map((share, i) => (
          <Bar
            key={share.name}
            dataKey={`s${i}`}
            stackId="draw"
            fill={shade(i)}
            stroke="var(--ink)"
            strokeWidth={1}
            isAnimationActive={false}
          />
        ))}
        <ReferenceLine x={source.milliamps} stroke="var(--error)" strokeWidth={2} label={line('supply maximum')} />
        <ReferenceLine
          x={source.milliamps * (1 - MARGIN)}
          stroke="var(--error)"
          strokeDasharray="4 3"
          label={line('75 % limit')}
        />
      </BarChart>
    </ResponsiveContainer>
  )
}
