import { BOXES, boxFill, contactVerdict, figure, wireCaution } from '../../../core/bench'
import { channelsOn, loadOf, outputRoles, type Controller, type Enclosure } from '../../../core/site'
import { ChoiceField, NumberField, TickField } from '../../parts/fields'
import { WorkedTable } from '../../parts/WorkedTable'
import { edit } from '../../store/editing'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../../store/store'

/** Every contact against its load, and the box that all of it goes into. */
export function ContactsTab({ controller }: { controller: Controller }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const picked = useAppSelector((state) => state.screen.role)
  const channels = channelsOn(site, controller.id)
  const shown = channels.find((channel) => outputRoles(channel).includes(picked ?? '')) ?? channels[0]
  const verdict = shown && contactVerdict(site, shown, controller.module)
  return (
    <div className="mt-3 space-y-5">
      <p className="border-l-2 border-error pl-2 text-note text-soft">
        Mains: supply off and proved dead before the box is opened; line, never neutral, through the contact. A licensed
        electrician where the law asks for one; local code and the data sheet of the relay in hand decide.
      </p>
      <table className="sheet w-full">
        <thead>
          <tr>
            <th>contact</th>
            <th>load</th>
            <th className="!text-right">current</th>
            <th className="!text-right">inrush</th>
            <th>kind</th>
            <th className="w-40">of what it may carry</th>
            <th>verdict</th>
          </tr>
        </thead>
        <tbody>
          {channels.map((channel) => {
            const load = loadOf(site, channel.load)
            const one = contactVerdict(site, channel, controller.module)
            return (
              <tr key={channel.id} className={shown?.id === channel.id ? 'bg-panel' : ''}>
                <td>
                  <button
                    type="button"
                    className="font-semibold underline decoration-hair underline-offset-2 hover:decoration-ink"
                    onClick={() => dispatch(screenActions.rolePicked(outputRoles(channel)[0]!))}
                  >
                    {channel.name}
                  </button>
                </td>
                <td>{load ? `${load.name}, ${load.watts} W` : 'not named'}</td>
                <td className="text-right font-mono">{one ? `${figure(one.amps)} A` : ''}</td>
                <td className="text-right font-mono">{one ? `${figure(one.inrushAmps)} A` : ''}</td>
                <td>{one?.category}</td>
                <td>{one && <UsedBar used={one.used} />}</td>
                <td className={one?.advice === 'contactor' && !load?.contactor ? 'font-semibold text-error' : ''}>
                  {!one
                    ? ''
                    : load?.contactor
                      ? 'contactor fitted'
                      : one.advice === 'contactor'
                        ? 'needs a contactor'
                        : one.suppression && load?.suppression === 'none'
                          ? 'needs a snubber'
                          : 'fits'}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {verdict && shown && (
        <section aria-label={`${shown.name}, worked`}>
          <h2 className="rule-head">{shown.name}, worked</h2>
          <WorkedTable caption={`${shown.name}, worked`} rows={verdict.worked} />
          {verdict.suppression && (
            <p className="mt-1 text-note">Suppression to begin with: {verdict.suppression.words} (common practice).</p>
          )}
        </section>
      )}
      <Box controller={controller} />
    </div>
  )
}

function UsedBar({ used }: { used: number }) {
  return (
    <span className="flex items-center gap-2">
      <span aria-hidden="true" className="relative h-3 w-20 border border-ink">
        <span
          className={`absolute inset-y-0 left-0 ${used > 1 ? 'bg-error' : used > 0.8 ? 'bg-brass-fill' : 'bg-rest'}`}
          style={{ width: `${Math.min(100, used * 100)}%` }}
        />
      </span>
      <span className="font-mono text-note">{figure(used * 100)} %</span>
    </span>
  )
}

const NEW_BOX: Enclosure = {
  volumeCubicInches: 30.3,
  conductors: [{ awg: 14, count: 4 }],
  internalClamps: true,
  yokes: 0,
  groundingConductors: 2,
  moduleCubicCentimetres: 40,
  breakerAmps: 15,
}

function Box({ controller }: { controller: Controller }) {
  const dispatch = useAppDispatch()
  const change = (label: string, mutate: (box: Enclosure) => void) =>
    dispatch(
      edit(`${controller.name}: ${label}`, (draft) => {
        const target = draft.controllers.find((c) => c.id === controller.id)!
        target.enclosure ??= structuredClone(NEW_BOX)
        mutate(target.enclosure)
      }),
    )
  const box = controller.enclosure
  if (!box) {
    return (
      <section aria-label="Box">
        <h2 className="rule-head">Box</h2>
        <button type="button" className="press mt-2" onClick={() => change('box', () => undefined)}>
          Work out the box fill
        </button>
      </section>
    )
  }
  const fill = boxFill(box)
  const caution = wireCaution(box)
  const known = BOXES.find((one) => one.cubicInches === box.volumeCubicInches)
  return (
    <section aria-label="Box">
      <h2 className="rule-head">
        Box: {fill.cubicInches.toFixed(2)} of {box.volumeCubicInches} in³, {fill.fits ? 'fits' : 'does not fit'}
      </h2>
      <div className="mt-2 grid grid-cols-6 gap-2">
        <ChoiceField
          label="Box"
          value={known ? String(known.cubicInches) : 'other'}
          choices={[
            ...BOXES.map((one) => [String(one.cubicInches), `${one.name}, ${one.cubicInches} in³`] as const),
            ['other', 'other'],
          ]}
          onKeep={(value) =>
            value !== 'other' &&
            change('box', (b) => {
              b.volumeCubicInches = Number(value)
            })
          }
        />
        <NumberField
          label="Volume"
          unit="in³"
          value={Math.round(box.volumeCubicInches)}
          least={1}
          most={10_000}
          onKeep={(value) =>
            change('volume', (b) => {
              b.volumeCubicInches = value
            })
          }
        />
        <ChoiceField
          label="Conductors"
          value={String(box.conductors[0]?.awg ?? 14) as '14'}
          choices={(['18', '16', '14', '12', '10', '8', '6'] as const).map(
            (awg) => [awg as '14', `AWG ${awg}`] as const,
          )}
          onKeep={(awg) =>
            change('conductors', (b) => {
              b.conductors = [{ awg: Number(awg) as 14, count: b.conductors[0]?.count ?? 4 }]
            })
          }
        />
        <NumberField
          label="How many"
          value={box.conductors[0]?.count ?? 0}
          least={0}
          most={200}
          onKeep={(count) =>
            change('conductors', (b) => {
              b.conductors = [{ awg: b.conductors[0]?.awg ?? 14, count }]
            })
          }
        />
        <NumberField
          label="Yokes"
          value={box.yokes}
          least={0}
          most={20}
          onKeep={(value) =>
            change('yokes', (b) => {
              b.yokes = value
            })
          }
        />
        <NumberField
          label="Grounds"
          value={box.groundingConductors}
          least={0}
          most={40}
          onKeep={(value) =>
            change('grounds', (b) => {
              b.groundingConductors = value
            })
          }
        />
        <NumberField
          label="Module"
          unit="cm³"
          value={Math.round(box.moduleCubicCentimetres)}
          least={0}
          most={100_000}
          onKeep={(value) =>
            change('module volume', (b) => {
              b.moduleCubicCentimetres = value
            })
          }
        />
        <NumberField
          label="Breaker"
          unit="A"
          value={box.breakerAmps}
          least={1}
          most={125}
          onKeep={(value) =>
            change('breaker', (b) => {
              b.breakerAmps = value
            })
          }
        />
        <div className="self-end">
          <TickField
            label="Internal clamps"
            value={box.internalClamps}
            onKeep={(on) =>
              change('clamps', (b) => {
                b.internalClamps = on
              })
            }
          />
        </div>
      </div>
      <WorkedTable caption="Box fill, worked" rows={fill.worked} />
      {caution && <p className="mt-1 font-semibold text-warning">{caution}</p>}
    </section>
  )
}
