import { useState } from 'react'
import type { Point, Service } from '../../../../core/site'
import { addModePoint, addSensorPoint, removePoint, renumberPoints, swapPoints } from '../../../../core/ways'
import { edit } from '../../../store/editing'
import { useAppDispatch, useAppSelector } from '../../../store/store'

/** The points of a service, device by device, with what changes many of them at once. */
export function PointsTable({ service }: { service: Service }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const [first, setFirst] = useState<string | null>(null)
  const carried = (point: Point): string => {
    if (point.carries.kind === 'sensor')
      return `sensor ${site.sensors.find((sensor) => sensor.id === (point.carries as { sensor: string }).sensor)?.name ?? ''}`
    if (point.carries.kind === 'mode') return 'auto mode'
    const way = site.ways.find((one) => one.kind === 'app' && one.service === service.id && one.point === point.id)
    return site.channels.find((channel) => channel.id === way?.channel)?.name ?? 'nothing yet'
  }
  const swap = (point: Point) => {
    if (first === null) return setFirst(point.id)
    if (first !== point.id) dispatch(edit(`swap two points`, (draft) => swapPoints(draft, service.id, first, point.id)))
    setFirst(null)
  }
  const sensors = site.sensors.filter(
    (sensor) => !service.points.some((point) => point.carries.kind === 'sensor' && point.carries.sensor === sensor.id),
  )
  const ruled = site.controllers.filter(
    (controller) =>
      site.rules.some(
        (rule) => site.channels.find((channel) => channel.id === rule.channel)?.controller === controller.id,
      ) && !service.points.some((point) => point.carries.kind === 'mode' && point.controller === controller.id),
  )
  return (
    <section aria-label="Points">
      <h2 className="rule-head">Points</h2>
      {site.controllers
        .filter((controller) => service.points.some((point) => point.controller === controller.id))
        .map((controller) => (
          <div key={controller.id} className="mt-2">
            <div className="flex items-baseline gap-2">
              <span className="font-place font-semibold">{controller.name}</span>
              <button
                type="button"
                className="press-quiet"
                onClick={() =>
                  dispatch(
                    edit(`renumber points of ${controller.name}`, (draft) =>
                      renumberPoints(draft, service.id, controller.id),
                    ),
                  )
                }
              >
                number anew from vp1
              </button>
            </div>
            <table className="w-full text-note">
              <tbody>
                {service.points
                  .filter((point) => point.controller === controller.id)
                  .map((point) => (
                    <tr key={point.id} className="border-t border-hair">
                      <td className="w-14 py-0.5 font-mono font-semibold">vp{point.vp}</td>
                      <td>{point.name}</td>
                      <td className="text-soft">{carried(point)}</td>
                      <td className="font-mono">
                        {point.min}–{point.max}
                        {point.unit ? ` ${point.unit}` : ''}
                      </td>
                      <td className="text-soft">
                        {point.access},{' '}
                        {point.update.policy === 'change' ? 'on change' : `each ${point.update.everyMs / 1000} s`}
                      </td>
                      <td className="text-right">
                        <button
                          type="button"
                          className="press-quiet"
                          aria-pressed={first === point.id}
                          onClick={() => swap(point)}
                        >
                          {first === null ? 'swap' : first === point.id ? 'with …' : 'with this'}
                        </button>
                        {point.carries.kind !== 'channel' && (
                          <button
                            type="button"
                            className="press-quiet"
                            aria-label={`Take vp${point.vp} of ${controller.name} out`}
                            onClick={() =>
                              dispatch(edit(`no vp${point.vp}`, (draft) => removePoint(draft, service.id, point.id)))
                            }
                          >
                            out
                          </button>
                        )}
                      </td>
                    </tr>
                  ))}
              </tbody>
            </table>
          </div>
        ))}
      <div className="mt-2 flex flex-wrap gap-1.5">
        {sensors.map((sensor) => (
          <button
            key={sensor.id}
            type="button"
            className="press"
            onClick={() =>
              dispatch(
                edit(
                  `point for ${sensor.name}`,
                  (draft) =>
                    void addSensorPoint(
                      draft,
                      draft.sensors.find((s) => s.id === sensor.id)!,
                      service.id,
                    ),
                ),
              )
            }
          >
            Point for {sensor.name}
          </button>
        ))}
        {ruled.map((controller) => (
          <button
            key={controller.id}
            type="button"
            className="press"
            onClick={() =>
              dispatch(
                edit(
                  `mode point of ${controller.name}`,
                  (draft) =>
                    void addModePoint(
                      draft,
                      draft.controllers.find((c) => c.id === controller.id)!,
                      service.id,
                    ),
                ),
              )
            }
          >
            Point for the mode of {controller.name}
          </button>
        ))}
      </div>
    </section>
  )
}
