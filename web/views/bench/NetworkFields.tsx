import { coprocessorOf, mainOf, type Controller } from '../../../core/site'
import { ChoiceField, NumberField, TextField } from '../../parts/fields'
import { useAppSelector } from '../../store/store'

type Link = Controller['link']

/** How a controller reaches the network, and how it reports; a pair says who stands for whom. */
export function NetworkFields({
  controller,
  change,
}: {
  controller: Controller
  change: (label: string, mutate: (controller: Controller) => void) => void
}) {
  const site = useAppSelector((state) => state.site.site)!
  const radio = coprocessorOf(site, controller.id)
  const main = mainOf(site, controller.id)
  // a coprocessor reports as its main board's tables say
  const reports = radio !== undefined || (controller.link !== 'none' && !main)
  const turnTo = (link: Link) =>
    change('link', (c) => {
      c.link = link
      c.modem = link === 'modem' ? (c.modem ?? { apn: '', joinS: 30 }) : null
    })
  const changeModem = (label: string, mutate: (modem: NonNullable<Controller['modem']>) => void) =>
    change(label, (c) => {
      if (c.modem) mutate(c.modem)
    })
  return (
    <fieldset className="mt-2 border-t border-hair pt-2">
      <legend className="sr-only">Network and reports</legend>
      <div className="grid grid-cols-3 gap-2">
        <ChoiceField<Link>
          label="Link"
          value={controller.link}
          choices={[
            ['wifi', 'Wi-Fi'],
            ['modem', 'modem'],
            ['none', 'none'],
          ]}
          onKeep={turnTo}
        />
        {controller.modem && (
          <TextField
            label="Modem APN"
            value={controller.modem.apn}
            mono
            onKeep={(apn) =>
              changeModem('modem network', (m) => {
                m.apn = apn.trim()
              })
            }
          />
        )}
        {controller.modem && (
          <NumberField
            label="Joins after"
            unit="s"
            value={controller.modem.joinS}
            least={1}
            most={600}
            onKeep={(seconds) =>
              changeModem('modem joins', (m) => {
                m.joinS = seconds
              })
            }
          />
        )}
        {reports && (
          <>
            <ChoiceField
              label="After an outage"
              value={controller.outage ?? 'unstated'}
              choices={[
                ['unstated', 'not stated'],
                ['local', 'the wall wins'],
                ['service', 'the service wins'],
              ]}
              onKeep={(outage) =>
                change('after an outage', (c) => {
                  c.outage = outage === 'unstated' ? null : outage
                })
              }
            />
            <NumberField
              label="Report gap"
              unit="ms"
              value={controller.minReportMs}
              least={0}
              most={60_000}
              onKeep={(ms) =>
                change('least time between reports', (c) => {
                  c.minReportMs = ms
                })
              }
            />
            <NumberField
              label="Full report"
              unit="s"
              value={controller.heartbeatS}
              least={5}
              most={86_400}
              onKeep={(seconds) =>
                change('full report', (c) => {
                  c.heartbeatS = seconds
                })
              }
            />
            <NumberField
              label="Sensor report"
              unit="s"
              value={controller.sensorS}
              least={1}
              most={86_400}
              onKeep={(seconds) =>
                change('sensor report', (c) => {
                  c.sensorS = seconds
                })
              }
            />
          </>
        )}
      </div>
      {radio && (
        <p className="mt-1 text-note text-soft">
          {radio.name} stands for it on the network, at the other end of its serial line.
        </p>
      )}
      {main && (
        <p className="mt-1 text-note text-soft">It stands for {main.name} on the network, and runs its tables.</p>
      )}
    </fieldset>
  )
}
