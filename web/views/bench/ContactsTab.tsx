import { contactVerdict, figure, inSentence } from '../../../core/electrics'
import { channelsOn, loadOf, outputRoles, type Channel, type Controller, type Load } from '../../../core/site'
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
        <section aria-label={`${shown.name}: calculation`}>
          <h2 className="rule-head">{shown.name}: calculation</h2>
          <CalculationTable caption={`${shown.name}: calculation`} rows={verdict.calculations} />
          {verdict.suppression && (
            <p className="mt-1 text-note">
              Suppression, starting value: {verdict.suppression.words} (common practice).
            </p>
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
          <th>channel</th>
          <th>on its contact</th>
          <th className="!text-right">current</th>
          <th className="!text-right">inrush</th>
          <th>category</th>
          <th className="w-40">load on contact</th>
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

type ContactVerdict = NonNullable<ReturnType<typeof contactVerdict>>

/** What becomes of a relay's contact, and of the contactor that it may work, in a word or two each. */
function verdictWords(
  verdict: ContactVerdict | undefined,
  load: Load | undefined,
): { readonly contact: string; readonly contactor: string } {
  const unsuppressed = verdict?.suppression && load?.suppression === 'none'
  const contactor = verdict?.contactor && verdict.contactor.used > 1 ? 'contactor too small' : 'fits'
  const contact = (words: string) => ({ contact: words, contactor })
  if (load?.supply === 'dry') return contact('two wires, no load')
  if (!verdict) return contact('')
  if (verdict.volts > verdict.mayVolts) return contact(`not for ${verdict.volts} V`)
  if (verdict.advice === 'contactor') return contact(verdict.contactor ? 'coil too strong' : 'needs a contactor')
  return contact(unsuppressed ? `needs a ${verdict.suppression!.kind}` : 'fits')
}

function ContactLine({ channel, shown }: { channel: Channel; shown: boolean }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const load = loadOf(site, channel.load)
  const verdict = contactVerdict(site, channel)
  const words = verdictWords(verdict, load)
  const looks = shown ? 'bg-panel' : ''
  return (
    <>
      <tr className={looks}>
        <td>
          <button
            type="button"
            className="min-h-6 text-left font-semibold underline decoration-hair underline-offset-2 hover:decoration-ink"
            onClick={() => dispatch(screenActions.rolePicked(outputRoles(channel)[0]!))}
          >
            {channel.name}
          </button>
        </td>
        <td>{verdict?.contactor ? `coil of the ${inSentence(verdict.contactor.name)}` : loadWords(load)}</td>
        <td className="text-right font-mono whitespace-nowrap">{verdict ? `${figure(verdict.amps)} A` : ''}</td>
        <td className="text-right font-mono whitespace-nowrap">{verdict ? `${figure(verdict.inrushAmps)} A` : ''}</td>
        <td className="whitespace-nowrap">{verdict?.category}</td>
        <td>{verdict && <UsedBar used={verdict.used} />}</td>
        <Verdict words={words.contact} />
      </tr>
      {verdict?.contactor && <ContactorLine of={verdict.contactor} load={load} words={words.contactor} looks={looks} />}
    </>
  )
}

interface ContactorProps {
  readonly of: NonNullable<ContactVerdict['contactor']>
  readonly load: Load | undefined
  readonly words: string
  readonly looks: string
}

/** The load on the contactor, below the coil on the relay. */
const ContactorLine = ({ of: { amps, mayAmps, used }, load, words, looks }: ContactorProps) => (
  <tr className={looks}>
    <td className="!pl-6 text-note">↳ its contactor</td>
    <td>{loadWords(load)}</td>
    <td className="text-right font-mono whitespace-nowrap">{figure(amps)} A</td>
    <td />
    <td className="text-note text-soft">of {figure(mayAmps)} A</td>
    <td>
      <UsedBar used={used} />
    </td>
    <Verdict words={words} />
  </tr>
)

const loadWords = (load: Load | undefined): string =>
  !load ? 'no load named' : load.supply === 'dry' ? `${load.name}, button input` : `${load.name}, ${load.watts} W`

/** A verdict of trouble is marked by more than its colour. */
function Verdict({ words }: { words: string }) {
  const trouble = !['', 'fits', 'two wires, no load'].includes(words)
  return <td className={trouble ? 'font-semibold text-error' : ''}>{trouble ? `▲ ${words}` : words}</td>
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
