import { coprocessorOf, mainOf, type Controller } from '../../../core/site'
import { Fields, fieldsOf } from '../../parts/form'
import { useAppSelector } from '../../store/store'
import type { Change } from '../../store/useChange'

type Modem = NonNullable<Controller['modem']>
const NO_MODEM: Modem = { apn: '', joinS: 30 }

const field = fieldsOf<Controller>()
const LINK = [
  field.choice(
    'Link',
    {
      read: (controller) => controller.link,
      write: (controller, link) => {
        controller.link = link
        controller.modem = link === 'modem' ? (controller.modem ?? { ...NO_MODEM }) : null
      },
    },
    [
      ['wifi', 'Wi-Fi'],
      ['modem', 'modem'],
      ['none', 'none'],
    ],
  ),
]

const modem = fieldsOf<Modem>()
const MODEM = [
  modem.text('Modem APN', 'apn', { what: 'modem network', mono: true }),
  modem.number('Connects within', 'joinS', { what: 'modem joins', unit: 's', least: 1, most: 600 }),
  modem.number(
    'Data limit',
    {
      read: ({ kilobytesADay }) => kilobytesADay ?? 0,
      write: (target, most) => {
        if (most > 0) target.kilobytesADay = most
        else delete target.kilobytesADay
      },
    },
    {
      what: 'modem data',
      unit: 'KB per day',
      hint: 'Above it, the board reports at most once a minute. 0: no limit.',
      least: 0,
      most: 1_000_000,
    },
  ),
]

const REPORTS = [
  field.choice(
    'After an outage',
    {
      read: ({ outage }) => outage ?? 'unstated',
      write: (controller, outage) => {
        controller.outage = outage === 'unstated' ? null : outage
      },
    },
    [
      ['unstated', 'not stated'],
      ['local', 'wall wins'],
      ['service', 'service wins'],
    ],
  ),
  field.number('Report gap', 'minReportMs', {
    what: 'report gap',
    unit: 'ms',
    least: 0,
    most: 60_000,
  }),
  field.number('Full report', 'heartbeatS', { unit: 's', least: 5, most: 86_400 }),
  field.number('Sensor report', 'sensorS', { unit: 's', least: 1, most: 86_400 }),
]

/** How a controller reaches the network, and how it reports; a pair says who stands for whom. */
export function NetworkFields({ controller, change }: { controller: Controller; change: Change<Controller> }) {
  const site = useAppSelector((state) => state.site.site)!
  const radio = coprocessorOf(site, controller.id)
  const main = mainOf(site, controller.id)
  // a coprocessor reports as its main board's tables say
  const reports = radio !== undefined || (controller.link !== 'none' && !main)
  const changeModem: Change<Modem> = (what, mutate) =>
    change(what, (target) => {
      if (target.modem) mutate(target.modem)
    })
  return (
    <fieldset className="mt-2 border-t border-hair pt-2">
      <legend className="sr-only">Network and reports</legend>
      <div className="grid grid-cols-2 @md:grid-cols-3 gap-2">
        <Fields rows={LINK} of={controller} change={change} />
        {controller.modem && <Fields rows={MODEM} of={controller.modem} change={changeModem} />}
        {reports && <Fields rows={REPORTS} of={controller} change={change} />}
      </div>
      {radio && (
        <p className="mt-1 text-note text-soft">{radio.name} connects it to the network, over its serial line.</p>
      )}
      {main && <p className="mt-1 text-note text-soft">It connects {main.name} to the network, and runs its tables.</p>}
    </fieldset>
  )
}
