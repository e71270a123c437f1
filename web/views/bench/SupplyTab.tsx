import { modulesIn, boardIn, type SupplyProfile } from '../../../core/boards'
import { baseDrive, optoCalculations, pinLoad, supplyBudget, type Calculation } from '../../../core/electrics'
import type { Controller, Site, SupplyPlan } from '../../../core/site'
import { Fields, fieldsOf } from '../../parts/form'
import { CalculationTable } from '../../parts/CalculationTable'
import { useAppSelector } from '../../store/store'
import { useChange, withId, type Change } from '../../store/useChange'
import { BudgetChart } from './BudgetChart'

const NEW_PLAN: SupplyPlan = {
  source: 'boxed-5v-3a',
  board: null,
  coils: null,
  own: null,
  reservoirMicrofarads: 0,
  coilsFromLogic: false,
}

const field = fieldsOf<SupplyPlan>()
function planFields(site: Site) {
  const supplies = modulesIn(site).filter((module): module is SupplyProfile => module.kind === 'supply')
  const named = (role: SupplyProfile['role']) =>
    supplies.filter((one) => one.role === role).map((one) => [one.id, one.name] as const)
  const converters = [['', 'direct, no converter'] as const, ...named('converter')]
  const converter = (key: 'board' | 'coils' | 'own', label: string) =>
    field.choice(
      label,
      {
        read: (plan) => plan[key] ?? '',
        write: (plan, id) => {
          plan[key] = id === '' ? null : id
        },
      },
      converters,
      { what: `converter, ${key}` },
    )
  return [
    field.choice('Source', 'source', named('source')),
    converter('board', 'Converter for the board'),
    converter('coils', 'Converter for the coils'),
    converter('own', 'Converter for modem and parts'),
    field.number('Reservoir', 'reservoirMicrofarads', { unit: 'µF', least: 0, most: 100_000 }),
    field.tick('Coils are fed from the board’s logic regulator', 'coilsFromLogic', {
      what: 'coils on the regulator',
      place: 'col-span-2 self-end',
    }),
  ]
}

/** Steady, peak and start-up current of a controller against what its supply gives. */
export function SupplyTab({ controller }: { controller: Controller }) {
  const site = useAppSelector((state) => state.site.site)!
  const change = useChange(controller.name, (draft) => {
    const target = withId(draft.controllers, controller.id)
    if (target) target.supply ??= { ...NEW_PLAN }
    return target?.supply
  })
  if (!controller.supply) return <Unnamed controller={controller} change={change} />
  const budget = supplyBudget(site, controller)
  return (
    <div className="mt-3 space-y-5">
      <div className="grid grid-cols-2 @md:grid-cols-4 gap-2">
        <Fields rows={planFields(site)} of={controller.supply} change={change} />
      </div>
      {budget && <BudgetChart budget={budget} />}
      {budget && <WorkedSection title="Supply" of="Supply" rows={budget.calculations} />}
      <DriveWorked controller={controller} />
      <p className="border-l-2 border-error pl-2 text-note text-soft">
        A mains supply stands in the same box as mains: supply off and proved dead first; a licensed electrician where
        the law asks for one; local code decides.
      </p>
    </div>
  )
}

function Unnamed({ controller, change }: { controller: Controller; change: Change<SupplyPlan> }) {
  return (
    <div className="mt-4">
      <p className="text-soft">What feeds {controller.name} is not known, so its currents cannot be checked.</p>
      <button type="button" className="press mt-2" onClick={() => change('supply', () => undefined)}>
        Add supply
      </button>
    </div>
  )
}

function WorkedSection({ title, of, rows }: { title: string; of: string; rows: readonly Calculation[] }) {
  return (
    <section aria-label={`${of}: calculation`}>
      <h2 className="rule-head">{title}: calculation</h2>
      <CalculationTable caption={`${of}: calculation`} rows={rows} />
    </section>
  )
}

/** What drives the relays' inputs, and what that costs the pins. */
function DriveWorked({ controller }: { controller: Controller }) {
  const site = useAppSelector((state) => state.site.site)!
  const board = boardIn(site, controller.board)
  const { module } = controller
  if (!module || !board) return null
  const opto = module.input === 'opto'
  const drive = opto
    ? optoCalculations(module, board.logicVolts)
    : baseDrive(module.coilVolts, module.coilOhms, board.logicVolts).calculations
  const rows = [...drive, ...(pinLoad(site, controller)?.calculations ?? [])]
  return <WorkedSection title={opto ? 'Opto input' : 'Transistor stage'} of="Drive" rows={rows} />
}
