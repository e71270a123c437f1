import { contactVerdict, figure, inSentence } from '../../../core/electrics'
import { channelsOn, loadOf, outputRoles, type Channel, type Controller } from '../../../core/site'
import { CalculationTable } from '../../parts/CalculationTable'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { BoxFields } from './BoxFields'
import { MainsFields } from './MainsFields'
import { PlaceFields } from './PlaceFields'

/** Every contact against its load, and the box that all of it goes into. */
export function ContactsTab({ controller }: { controller: Controller }) {
  const site = useAppSelector((state) => state.site.site)!
  const picked = useAppSelector((state) => state.screen.role)
  const channels = channelsOn(site, controller.id)
  const shown = channels.find((channel) => outputRoles(channel).includes(picked ?? '')) ?? channels[0]
  const verdict = shown && contactVerdict(site, shown)
  return (
    <div className="mt-3 space-y-5">
      <p className="border-l-2 border-error pl-2 text-note text-soft">
        Mains: supply off and proved dead before the box is opened; line, never neutral, through the contact. A licensed
        electrician where the law asks for one; local code and the data sheet of the relay in hand decide.
      </p>
      <ContactsTable channels={channels} shown={shown?.id ?? null} />
      {verdict && shown && (
        <section aria-label={`${shown.name}, worked`}>
          <h2 className="rule-head">{shown.name}, worked</h2>
          <CalculationTable caption={`${shown.name}, worked`} rows={verdict.calculations} />
          {verdict.suppression && (
            <p className="mt-1 text-note">Suppression to begin with: {verdict.suppression.words} (common practice).</p>
          )}
        </section>
      )}
      <PlaceFields />
      <MainsFields controller={controller} />
      <BoxFields controller={controller} />
    </div>
  )
}

interface TableProps {
  readonly channels: readonly Channel[]
  readonly shown: string | null
}

function ContactsTable({ channels, shown }: TableProps) {
  return (
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
        {channels.map((channel) => (
          <ContactLine key={channel.id} channel={channel} shown={shown === channel.id} />
        ))}
      </tbody>
    </table>
  )
}

type Verdict = ReturnType<typeof contactVerdict>
type LoadOf = ReturnType<typeof loadOf>

/** What becomes of a contact, in a word or two. */
function verdictWords(verdict: Verdict, load: LoadOf): string {
  if (load?.supply === 'dry') return 'two wires, no load'
  if (!verdict) return ''
  if (verdict.volts > verdict.mayVolts) return `not for ${verdict.volts} V`
  if (verdict.advice === 'contactor') return verdict.contactor ? 'coil too strong' : 'needs a contactor'
  if (verdict.contactor && verdict.contactor.used > 1) return 'contactor too small'
  if (verdict.suppression && load?.suppression === 'none') return `needs a ${verdict.suppression.kind}`
  return 'fits'
}

function ContactLine({ channel, shown }: { channel: Channel; shown: boolean }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const load = loadOf(site, channel.load)
  const verdict = contactVerdict(site, channel)
  const words = verdictWords(verdict, load)
  const trouble = !['', 'fits', 'two wires, no load'].includes(words)
  return (
    <tr className={shown ? 'bg-panel' : ''}>
      <td>
        <button
          type="button"
          className="text-left font-semibold underline decoration-hair underline-offset-2 hover:decoration-ink"
          onClick={() => dispatch(screenActions.rolePicked(outputRoles(channel)[0]!))}
        >
          {channel.name}
        </button>
      </td>
      <td>
        {!load ? 'not named' : load.supply === 'dry' ? `${load.name}, button input` : `${load.name}, ${load.watts} W`}
        {verdict?.contactor && (
          <span className="block text-small text-soft">
            on {inSentence(verdict.contactor.name)}; the contact works its coil
          </span>
        )}
      </td>
      <td className="text-right font-mono whitespace-nowrap">{verdict ? `${figure(verdict.amps)} A` : ''}</td>
      <td className="text-right font-mono whitespace-nowrap">{verdict ? `${figure(verdict.inrushAmps)} A` : ''}</td>
      <td className="whitespace-nowrap">{verdict?.category}</td>
      <td>
        {verdict && <UsedBar used={verdict.used} />}
        {verdict?.contactor && <UsedBar used={verdict.contactor.used} />}
      </td>
      <td className={trouble ? 'font-semibold text-error' : ''}>{words}</td>
    </tr>
  )
}

function UsedBar({ used }: { used: number }) {
  const fill = used > 1 ? 'bg-error' : used > 0.8 ? 'bg-brass-fill' : 'bg-rest'
  return (
    <span className="flex items-center gap-2">
      <span aria-hidden="true" className="relative h-3 w-20 border border-ink">
        <span className={`absolute inset-y-0 left-0 ${fill}`} style={{ width: `${Math.min(100, used * 100)}%` }} />
      </span>
      <span className="font-mono text-note">{figure(used * 100)} %</span>
    </span>
  )
}
