import { channelOf, counted, roomOf, type Site, type VoiceWay } from '../../../core/site'
import { serviceKindIn, voiceCount } from '../../../core/services'
import { clashesOf, troubleOf, voiceWays, type Clash } from '../../../core/voice'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { SayLine } from './SayLine'
import { useShowCell } from './useShowCell'

/** Every spoken name, which of them are taken for one another, and a line to try. */
export function VoiceTab() {
  const site = useAppSelector((state) => state.site.site)!
  const ways = voiceWays(site)
  const clashes = clashesOf(site)
  if (ways.length === 0) return <p className="text-soft">No spoken name yet. Fill the Voice column of the crossbar.</p>
  return (
    <div className="grid @3xl:grid-cols-[1fr_19rem] gap-6">
      <div>
        <h2 className="rule-head">Names</h2>
        <NamesTable ways={ways} />
        <VoicePlans site={site} />
        <h2 className="rule-head mt-5">Names that sound alike</h2>
        {clashes.length === 0 && (
          <p className="mt-1 text-note text-soft">No two names sound alike (numbers, sounds and letters compared).</p>
        )}
        <ol className="mt-1">
          {clashes.map((clash) => (
            <ClashLine key={`${clash.a.id}/${clash.b.id}`} clash={clash} />
          ))}
        </ol>
      </div>
      <div>
        <h2 className="rule-head">Try a phrase</h2>
        <SayLine />
      </div>
    </div>
  )
}

function NamesTable({ ways }: { ways: readonly VoiceWay[] }) {
  return (
    <table className="mt-1 w-full">
      <thead className="text-left text-small text-soft">
        <tr>
          {['spoken', 'channel', 'room', 'by', 'PIN'].map((head) => (
            <th key={head} className="font-normal">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {ways.map((way) => (
          <NameLine key={way.id} way={way} />
        ))}
      </tbody>
    </table>
  )
}

const CARRIERS: Readonly<Record<string, string>> = { hub: 'the hub', app: 'the app service' }

function NameLine({ way }: { way: VoiceWay }) {
  const site = useAppSelector((state) => state.site.site)!
  const showCell = useShowCell()
  const channel = channelOf(site, way.channel)!
  const through = site.ways.find((other) => other.id === way.through)
  const trouble = troubleOf(way.name)
  return (
    <tr className="border-t border-hair">
      <td className="py-1">
        <button
          type="button"
          className="press-quiet -ml-1.5 font-semibold"
          onClick={() => showCell(channel.id, 'voice')}
        >
          “{way.name}”
        </button>
        {trouble && <span className="block text-small text-warning">{trouble.what}</span>}
      </td>
      <td>{channel.name}</td>
      <td className="text-soft">{roomOf(site, channel.room)?.name ?? '–'}</td>
      <td className={through ? 'text-soft' : 'text-error'}>{CARRIERS[through?.kind ?? ''] ?? 'nothing'}</td>
      <td className="text-soft">{way.pin ? 'asked' : '–'}</td>
    </tr>
  )
}

/** How many devices each voice service knows, of those that its plan allows. */
function VoicePlans({ site }: { site: Site }) {
  const voices = site.services.filter((service) => serviceKindIn(site, service.kind)?.family === 'voice')
  return voices.map((service) => {
    const limit = serviceKindIn(site, service.kind)!.limits.devices
    const used = voiceCount(site, service.id)
    const over = limit !== null && used > limit
    return (
      <p key={service.id} className={`mt-2 text-note ${over ? 'font-semibold text-error' : 'text-soft'}`}>
        {`${service.name}: ${limit === null ? counted(used, 'device') : used > limit ? `${counted(used, 'device')}, the plan allows ${limit}` : `${used} of ${limit} devices in the plan`}.`}
      </p>
    )
  })
}

/** "room", "group": what a name clashes with where that is no device. */
const otherKind = ({ a, b }: Clash): string =>
  a.kind === 'device' && b.kind === 'device' ? '' : `, ${a.kind === 'device' ? b.kind : a.kind}`

function ClashLine({ clash }: { clash: Clash }) {
  const dispatch = useAppDispatch()
  const { proposal } = clash
  const rename = (id: string, name: string) =>
    dispatch(
      edit(`rename to “${name}”`, (draft) => {
        const target = draft.ways.find((way) => way.id === id)
        if (target?.kind === 'voice') target.name = name
      }),
    )
  return (
    <li className="flex items-center gap-3 border-b border-hair py-1.5">
      <span className="w-12 font-mono text-note">{Math.round(clash.score * 100)} %</span>
      <span className="min-w-0 flex-1">
        “{clash.a.name}” and “{clash.b.name}”{' '}
        <span className="text-note text-soft">
          {clash.why}
          {otherKind(clash)}
        </span>
      </span>
      {proposal && (
        <button type="button" className="press" onClick={() => rename(proposal.way, proposal.name)}>
          Rename to “{proposal.name}”
        </button>
      )}
    </li>
  )
}
