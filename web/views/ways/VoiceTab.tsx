import { channelOf, roomOf } from '../../../core/site'
import { serviceKindIn, voiceCount } from '../../../core/ways'
import { clashesOf, troubleOf, voiceWays } from '../../../core/voice'
import { edit } from '../../store/editing'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { useSide } from './WaysTabs'
import { SayLine } from './VoiceFields'

/** Every spoken name, which of them are taken for one another, and a line to try. */
export function VoiceTab() {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const [, setSide] = useSide()
  const ways = voiceWays(site)
  const clashes = clashesOf(site)
  const rename = (id: string, name: string) =>
    dispatch(
      edit(`say “${name}”`, (draft) => {
        const target = draft.ways.find((way) => way.id === id)
        if (target?.kind === 'voice') target.name = name
      }),
    )
  if (ways.length === 0)
    return <p className="text-soft">Nothing can be asked for by voice yet. Fill the Voice column of the crossbar.</p>
  return (
    <div className="grid grid-cols-[1fr_19rem] gap-6">
      <div>
        <h2 className="rule-head">Names</h2>
        <table className="mt-1 w-full">
          <thead className="text-left text-small text-soft">
            <tr>
              <th className="font-normal">spoken</th>
              <th className="font-normal">channel</th>
              <th className="font-normal">room</th>
              <th className="font-normal">by</th>
              <th className="font-normal">PIN</th>
            </tr>
          </thead>
          <tbody>
            {ways.map((way) => {
              const channel = channelOf(site, way.channel)!
              const through = site.ways.find((other) => other.id === way.through)
              const trouble = troubleOf(way.name)
              return (
                <tr key={way.id} className="border-t border-hair">
                  <td className="py-1">
                    <button
                      type="button"
                      className="press-quiet -ml-1.5 font-semibold"
                      onClick={() => {
                        dispatch(screenActions.cellPicked({ channel: channel.id, column: 'voice' }))
                        setSide('crossbar')
                      }}
                    >
                      “{way.name}”
                    </button>
                    {trouble && <span className="block text-small text-warning">{trouble.what}</span>}
                  </td>
                  <td>{channel.name}</td>
                  <td className="text-soft">{roomOf(site, channel.room)?.name ?? '–'}</td>
                  <td className={through ? 'text-soft' : 'text-error'}>
                    {through?.kind === 'hub' ? 'the hub' : through?.kind === 'app' ? 'the app service' : 'nothing'}
                  </td>
                  <td className="text-soft">{way.pin ? 'asked' : '–'}</td>
                </tr>
              )
            })}
          </tbody>
        </table>
        {site.services
          .filter((service) => serviceKindIn(site, service.kind)?.family === 'voice')
          .map((service) => {
            const limit = serviceKindIn(site, service.kind)!.limits.devices
            const used = voiceCount(site, service.id)
            return (
              <p
                key={service.id}
                className={`mt-2 text-note ${limit !== null && used > limit ? 'font-semibold text-error' : 'text-soft'}`}
              >
                {service.name}: {used} {limit === null ? 'devices' : `of the ${limit} devices that the plan allows`}.
              </p>
            )
          })}
        <h2 className="rule-head mt-5">Taken for one another</h2>
        {clashes.length === 0 && (
          <p className="mt-1 text-note text-soft">
            No two names are alike: numbers and words that sound like them, sounds and letters compared.
          </p>
        )}
        <ol className="mt-1">
          {clashes.map((clash) => (
            <li key={`${clash.a.id}/${clash.b.id}`} className="flex items-center gap-3 border-b border-hair py-1.5">
              <span className="w-12 font-mono text-note">{Math.round(clash.score * 100)} %</span>
              <span className="min-w-0 flex-1">
                “{clash.a.name}” and “{clash.b.name}”{' '}
                <span className="text-note text-soft">
                  {clash.why}
                  {clash.a.kind !== 'device' || clash.b.kind !== 'device'
                    ? `, ${clash.a.kind === 'device' ? clash.b.kind : clash.a.kind}`
                    : ''}
                </span>
              </span>
              {clash.proposal && (
                <button
                  type="button"
                  className="press"
                  onClick={() => rename(clash.proposal!.way, clash.proposal!.name)}
                >
                  Say “{clash.proposal.name}”
                </button>
              )}
            </li>
          ))}
        </ol>
      </div>
      <div>
        <h2 className="rule-head">Try a line</h2>
        <SayLine />
      </div>
    </div>
  )
}
