import { controllerOf, timeText } from '../../../core/site'
import { PhoneScreen } from '../../parts/PhoneScreen'
import type { TrialPart } from './parts'

/**
 * The phone: the screens of the app services, live. What cannot be reached is struck through, and still shows what it
 * last believed.
 */
export function Phone({ site, snapshot, act }: TrialPart) {
  const services = site.services.filter((service) => service.widgets.length > 0)
  return (
    <section aria-label="Phone">
      <h2 className="rule-head">Phone</h2>
      <Pairing site={site} snapshot={snapshot} act={act} />
      {services.length === 0 && <p className="mt-2 text-soft">No widget yet.</p>}
      {services.map((service) => (
        <div key={service.id} className="mt-2">
          <PhoneScreen
            site={site}
            service={service}
            shownOf={(widget) => snapshot.widgets[`${service.id}/${widget.id}`]}
            touch={(widget, on, value) =>
              act({
                kind: 'widget',
                service: service.id,
                widget: widget.id,
                on,
                ...(value === undefined ? {} : { value }),
              })
            }
          />
        </div>
      ))}
    </section>
  )
}

/** The phone beside a controller that is ready to pair. */
function Pairing({ site, snapshot, act }: TrialPart) {
  const offered = snapshot.pairing.filter((one) => one.offered)
  return offered.map(({ controller, closedUntil }) => (
    <div key={controller} className="mt-2 border-l-4 border-ink pl-2" role="group" aria-label="Pairing">
      <p>{controllerOf(site, controller)?.name} is ready to pair.</p>
      <p className="mt-1 flex flex-wrap gap-2">
        <button type="button" className="press" onClick={() => act({ kind: 'pair', controller, right: true })}>
          Say the PIN on its label
        </button>
        <button type="button" className="press" onClick={() => act({ kind: 'pair', controller, right: false })}>
          Say a wrong PIN
        </button>
      </p>
      {closedUntil !== null && (
        <p className="mt-1 text-small text-error">
          Too many wrong PINs: it accepts none for {timeText(Math.ceil((closedUntil - snapshot.now) / 1000) * 1000)}.
        </p>
      )}
    </div>
  ))
}
