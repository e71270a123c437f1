import { useState } from 'react'
import type { Controller, Point, Service } from '../../../../core/site'
import { addModePoint, addSensorPoint, carriedBy, removePoint, renumberPoints, swapPoints } from '../../../../core/ways'
import { unshownModes, unshownSensors } from '../../../../core/ways'
import { edit } from '../../../store/editing'
import { takeOut } from '../../../store/takeOut'
import { useAppDispatch, useAppSelector } from '../../../store/store'
import { withId } from '../../../store/useChange'

/** The points of a service, device by device, with what changes many of them at once. */
export function PointsTable({ service }: { service: Service }) {
  const controllers = useAppSelector((state) => state.site.site!.controllers)
  const devices = controllers.filter(({ id }) => service.points.some((point) => point.controller === id))
  return (
    <section aria-label="Points">
      <h2 className="rule-head">Points</h2>
      {devices.map((controller) => (
        <Device key={controller.id} service={service} controller={controller} />
      ))}
      <MorePoints service={service} />
    </section>
  )
}

function Device({ service, controller }: { service: Service; controller: Controller }) {
  const dispatch = useAppDispatch()
  /** the first of two that change numbers */
  const [first, setFirst] = useState<string | null>(null)
  const swap = (point: Point) => {
    if (first === null) return setFirst(point.id)
    if (first !== point.id) dispatch(edit(`swap two points`, (draft) => swapPoints(draft, service.id, first, point.id)))
    setFirst(null)
  }
  const renumber = edit(`renumber points of ${controller.name}`, (draft) =>
    renumberPoints(draft, service.id, controller.id),
  )
  return (
    <div className="mt-2">
      <div className="flex items-baseline gap-2">
        <span className="font-place font-semibold">{controller.name}</span>
        <button type="button" className="press-quiet" onClick={() => dispatch(renumber)}>
          Renumber from vp1
        </button>
      </div>
      <table className="w-full text-note">
        <tbody>
          {service.points
            .filter((point) => point.controller === controller.id)
            .map((point) => (
              <PointLine
                key={point.id}
                service={service}
                controller={controller}
                point={point}
                first={first}
                onSwap={() => swap(point)}
              />
            ))}
        </tbody>
      </table>
    </div>
  )
}

interface LineProps {
  readonly service: Service
  readonly controller: Controller
  readonly point: Point
  readonly first: string | null
  readonly onSwap: () => void
}

const swapWords = (first: string | null, own: string): string =>
  first === null ? 'swap' : first === own ? 'with …' : 'with this'

function PointLine({ service, controller, point, first, onSwap }: LineProps) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const { id, vp, name, min, max, unit, access, update } = point
  const goesUp = update.policy === 'change' ? 'on change' : `every ${update.everyMs / 1000} s`
  const out = takeOut(name, (draft) => removePoint(draft, service.id, id), `no vp${vp}`)
  return (
    <tr className="border-t border-hair">
      <td className="w-14 py-0.5 font-mono font-semibold">vp{vp}</td>
      <td>{name}</td>
      <td className="text-soft">{carriedBy(site, service, point)}</td>
      <td className="font-mono">{`${min}–${max}${unit ? ` ${unit}` : ''}`}</td>
      <td className="text-soft">{`${access}, ${goesUp}`}</td>
      <td className="text-right">
        <button type="button" className="press-quiet" aria-pressed={first === id} onClick={onSwap}>
          {swapWords(first, id)}
        </button>
        {point.carries.kind !== 'channel' && (
          <button
            type="button"
            className="press-quiet"
            aria-label={`Delete vp${vp} of ${controller.name}`}
            onClick={() => dispatch(out)}
          >
            Delete
          </button>
        )}
      </td>
    </tr>
  )
}

/** Points that could be: of sensors and of modes that no widget shows yet. */
function MorePoints({ service }: { service: Service }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const forSensor = (id: string, name: string) =>
    edit(`point for ${name}`, (draft) => void addSensorPoint(draft, withId(draft.sensors, id)!, service.id))
  const forMode = (id: string, name: string) =>
    edit(`mode point of ${name}`, (draft) => void addModePoint(draft, withId(draft.controllers, id)!, service.id))
  return (
    <div className="mt-2 flex flex-wrap gap-1.5">
      {unshownSensors(site, service).map(({ id, name }) => (
        <button key={id} type="button" className="press" onClick={() => dispatch(forSensor(id, name))}>
          Point for {name}
        </button>
      ))}
      {unshownModes(site, service).map(({ id, name }) => (
        <button key={id} type="button" className="press" onClick={() => dispatch(forMode(id, name))}>
          Point for the mode of {name}
        </button>
      ))}
    </div>
  )
}
