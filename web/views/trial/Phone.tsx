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
