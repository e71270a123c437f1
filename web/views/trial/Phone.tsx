import type { TrialPart } from './parts'

/** The phone: the app service's widgets. What cannot be reached is struck through, and still shows what it last believed. */
export function Phone({ site, snapshot, act }: TrialPart) {
  const widgets = site.services.flatMap((service) => service.widgets.map((widget) => ({ service, widget })))
  return (
    <section aria-label="Phone">
      <h2 className="rule-head">Phone</h2>
      {widgets.length === 0 && <p className="mt-2 text-soft">No widget yet.</p>}
      <ul className="mt-2 space-y-1.5 rounded-xl border-2 border-ink bg-panel p-2.5">
        {widgets.map(({ service, widget }) => {
          const shown = snapshot.widgets[`${service.id}/${widget.id}`]
          if (!shown) return null
          const point = service.points.find((candidate) => candidate.id === widget.point)!
          const touch = (on: boolean) => act({ kind: 'widget', service: service.id, widget: widget.id, on })
          return (
            <li key={`${service.id}/${widget.id}`} className="flex items-center gap-2">
              <span className="min-w-0 flex-1 leading-tight">
                <span className="block truncate font-semibold">{widget.name}</span>
                <span className="block text-small text-soft">
                  vp{point.vp} = {shown.value}
                  {point.unit ? ` ${point.unit}` : ''}
                  {shown.reachable ? '' : ', not reached'}
                </span>
              </span>
              {widget.kind === 'value' && <output className="font-mono text-head">{shown.value}</output>}
              {widget.kind === 'switch' && (
                <button type="button" role="switch" aria-checked={shown.on} aria-label={widget.name} data-widget={widget.id} className={`relative h-7 w-13 shrink-0 rounded-md border-2 border-ink ${shown.on ? 'bg-brass-fill' : 'bg-wall'} ${shown.reachable ? '' : 'border-dashed'}`} onClick={() => touch(!shown.on)}>
                  <span className={`absolute top-0.5 bottom-0.5 w-5 rounded-sm ${shown.on ? 'right-0.5 bg-ink dark:bg-wall' : 'left-0.5 bg-bus'}`} />
                </button>
              )}
              {widget.kind === 'slider' && (
                <input type="range" min={point.min} max={point.max} step={point.step} value={shown.value} aria-label={widget.name} data-widget={widget.id} className={`w-24 shrink-0 accent-(--brass) ${shown.reachable ? '' : 'opacity-60'}`} onChange={(event) => act({ kind: 'widget', service: service.id, widget: widget.id, on: Number(event.target.value) > point.min, value: Number(event.target.value) })} />
              )}
              {widget.kind === 'push' && (
                <button type="button" aria-label={widget.name} data-widget={widget.id} className="press" onPointerDown={() => touch(true)} onPointerUp={() => touch(false)} onPointerLeave={() => shown.on && touch(false)}>
                  push
                </button>
              )}
            </li>
          )
        })}
      </ul>
    </section>
  )
}
