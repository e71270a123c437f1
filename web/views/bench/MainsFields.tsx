import { conductorSize, feedVerdict } from '../../../core/electrics'
import { usualFeed } from '../../../core/findings'
import { plainCopy, type Controller, type MainsConductor, type MainsFeed } from '../../../core/site'
import { CalculationTable } from '../../parts/CalculationTable'
import { Fields, fieldsOf } from '../../parts/form'
import { useAppSelector } from '../../store/store'
import { useChange, withId } from '../../store/useChange'

const AWGS = [14, 12, 10, 8, 6] as const
const AREAS = [1, 1.5, 2.5, 4, 6, 10, 16] as const
const conductorKey = (conductor: MainsConductor): string =>
  conductor.by === 'awg' ? `awg ${conductor.awg}` : `area ${conductor.squareMillimetres}`
const CONDUCTORS: readonly (readonly [string, string, MainsConductor])[] = [
  ...AREAS.map((size) => {
    const conductor: MainsConductor = { by: 'area', squareMillimetres: size }
    return [conductorKey(conductor), conductorSize(conductor), conductor] as const
  }),
  ...AWGS.map((size) => {
    const conductor: MainsConductor = { by: 'awg', awg: size }
    return [conductorKey(conductor), conductorSize(conductor), conductor] as const
  }),
]

const field = fieldsOf<MainsFeed>()
const FIELDS = [
  field.number('Breaker', 'breakerAmps', { unit: 'A', least: 1, most: 125 }),
  field.choice(
    'Wire',
    {
      read: ({ conductor }) => conductorKey(conductor),
      write: (feed, key) => {
        feed.conductor = CONDUCTORS.find(([known]) => known === key)![2]
      },
    },
    CONDUCTORS.map(([key, words]) => [key, words] as const),
    { what: 'wire' },
  ),
  field.choice('Residual-current device', 'residualCurrent', [
    ['unknown', 'not checked'],
    ['fitted', 'fitted'],
    ['none', 'none'],
  ]),
  field.text(
    'Fuse in the box',
    {
      read: ({ fuseAmps }) => (fuseAmps === null ? '' : String(fuseAmps)),
      write: (feed, text) => {
        feed.fuseAmps = text.trim() === '' ? null : Number(text)
      },
    },
    {
      what: 'fuse',
      unit: 'A',
      mono: true,
      check: (text) =>
        text.trim() === '' || (Number(text) >= 0.1 && Number(text) <= 63) ? null : '0.1 to 63 A, or empty',
    },
  ),
]

/** What the mains side of a controller hangs on, with the sum of its loads. */
export function MainsFields({ controller }: { controller: Controller }) {
  const site = useAppSelector((state) => state.site.site)!
  const change = useChange(controller.name, (draft) => {
    const target = withId(draft.controllers, controller.id)
    if (target) target.mains ??= plainCopy(usualFeed(draft))
    return target?.mains
  })
  const { mains } = controller
  return (
    <section aria-label="Mains">
      <h2 className="rule-head">Mains supply</h2>
      {mains ? (
        <>
          <div className="mt-2 grid grid-cols-2 @md:grid-cols-4 gap-2">
            <Fields rows={FIELDS} of={mains} change={change} />
          </div>
          <div className="mt-3">
            <CalculationTable caption="All mains loads together" rows={feedVerdict(site, controller).calculations} />
          </div>
        </>
      ) : (
        <button type="button" className="press mt-2" onClick={() => change('mains', () => undefined)}>
          Add breaker, wire and residual-current device
        </button>
      )}
    </section>
  )
}
