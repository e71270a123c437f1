import { BOXES, countsConductors, CUBIC_CENTIMETRES_PER_CUBIC_INCH, fillOf } from '../../../core/electrics'
import { plainCopy, type Controller, type Enclosure } from '../../../core/site'
import { Fields, fieldsOf } from '../../parts/form'
import { CalculationTable } from '../../parts/CalculationTable'
import { useAppSelector } from '../../store/store'
import { useChange, withId } from '../../store/useChange'

const NEW_BOX: Enclosure = {
  volumeCubicInches: 30.3,
  conductors: [{ awg: 14, count: 4 }],
  internalClamps: true,
  yokes: 0,
  groundingConductors: 2,
  moduleCubicCentimetres: 40,
}
const AWGS = ['18', '16', '14', '12', '10', '8', '6'] as const
type Conductors = Enclosure['conductors'][number]

const conductorsOf = (box: Enclosure): Conductors => box.conductors[0] ?? { awg: 14, count: 0 }
const field = fieldsOf<Enclosure>()
const FIELDS = [
  field.choice(
    'Box',
    {
      read: (box) => {
        const known = BOXES.find((one) => one.cubicInches === box.volumeCubicInches)
        return known ? String(known.cubicInches) : 'other'
      },
      write: (box, value) => {
        if (value !== 'other') box.volumeCubicInches = Number(value)
      },
    },
    [
      ...BOXES.map((one) => [String(one.cubicInches), `${one.name}, ${one.cubicInches} in³`] as const),
      ['other', 'other'],
    ],
  ),
  field.number(
    'Volume',
    {
      read: (box) => Math.round(box.volumeCubicInches),
      write: (box, value) => {
        box.volumeCubicInches = value
      },
    },
    { unit: 'in³', least: 1, most: 10_000 },
  ),
  field.choice(
    'Conductors',
    {
      read: (box) => String(conductorsOf(box).awg) as (typeof AWGS)[number],
      write: (box, awg) => {
        box.conductors = [{ awg: Number(awg) as Conductors['awg'], count: box.conductors[0]?.count ?? 4 }]
      },
    },
    AWGS.map((awg) => [awg, `AWG ${awg}`] as const),
  ),
  field.number(
    'Count',
    {
      read: (box) => conductorsOf(box).count,
      write: (box, count) => {
        box.conductors = [{ awg: conductorsOf(box).awg, count }]
      },
    },
    { what: 'conductors', least: 0, most: 200 },
  ),
  field.number('Yokes', 'yokes', { least: 0, most: 20 }),
  field.number('Grounds', 'groundingConductors', { least: 0, most: 40 }),
  field.number(
    'Module',
    {
      read: (box) => Math.round(box.moduleCubicCentimetres),
      write: (box, value) => {
        box.moduleCubicCentimetres = value
      },
    },
    { what: 'module volume', unit: 'cm³', least: 0, most: 100_000 },
  ),
  field.tick('Internal clamps', 'internalClamps', { what: 'clamps', place: 'self-end' }),
]

const toCubicCentimetres = (box: Enclosure): number =>
  Math.round(box.volumeCubicInches * CUBIC_CENTIMETRES_PER_CUBIC_INCH)
/** Where conductors are not counted by law: the volume on the box's label, and what sits in it. */
const METRIC = [
  field.number(
    'Volume (on its label)',
    {
      read: toCubicCentimetres,
      write: (box, value) => {
        box.volumeCubicInches = value / CUBIC_CENTIMETRES_PER_CUBIC_INCH
      },
    },
    { what: 'box volume', unit: 'cm³', least: 10, most: 160_000, place: 'col-span-2' },
  ),
  field.number('Contents', 'moduleCubicCentimetres', {
    what: 'module volume',
    unit: 'cm³',
    least: 0,
    most: 100_000,
    place: 'col-span-2',
  }),
]

/** The box that all of it goes into: and what fills it, worked out. */
export function BoxFields({ controller }: { controller: Controller }) {
  const change = useChange(controller.name, (draft) => {
    const target = withId(draft.controllers, controller.id)
    if (target) target.enclosure ??= plainCopy(NEW_BOX)
    return target?.enclosure
  })
  const site = useAppSelector((state) => state.site.site)!
  const box = controller.enclosure
  if (!box) {
    return (
      <section aria-label="Box">
        <h2 className="rule-head">Box</h2>
        <button type="button" className="press mt-2" onClick={() => change('box', () => undefined)}>
          Add box
        </button>
      </section>
    )
  }
  const fill = fillOf(site, box)
  const metric = !countsConductors(site)
  const verdict = fill.fits ? 'fits' : 'does not fit'
  const words = metric
    ? `${box.moduleCubicCentimetres} of ${toCubicCentimetres(box)} cm³`
    : `${fill.cubicInches.toFixed(2)} of ${box.volumeCubicInches} in³`
  return (
    <section aria-label="Box">
      <h2 className="rule-head">{`Box: ${words}, ${verdict}`}</h2>
      <div className="mt-2 grid grid-cols-2 @md:grid-cols-6 gap-2">
        <Fields rows={metric ? METRIC : FIELDS} of={box} change={change} />
      </div>
      <div className="mt-3">
        <CalculationTable caption="Box fill: calculation" rows={fill.calculations} />
      </div>
    </section>
  )
}
