import { controllerOf, relaysOn, type Channel } from '../../../core/site'
import { Fields, fieldsOf } from '../../parts/form'
import { useAppSelector } from '../../store/store'
import { useChange, withId } from '../../store/useChange'
import { ChannelName } from './ChannelName'
import { KindFields } from './KindFields'
import { LoadFields } from './LoadFields'
import { SteppedFields } from './SteppedFields'

const field = fieldsOf<Channel>()
const NUMBERS = Array.from({ length: 16 }, (_, index) => String(index + 1))
/** `now`: the relay on which it stands as things are. */
const common = (now: number | undefined, ways: number) => [
  field.choice(
    'Relay closes on',
    'active',
    [
      ['low', 'low'],
      ['high', 'high'],
    ],
    { what: 'polarity' },
  ),
  field.choice(
    'Relay',
    {
      read: ({ relay }) => (relay === undefined ? '' : String(relay)),
      write: (channel, number) => {
        if (number === '') delete channel.relay
        else channel.relay = Number(number)
      },
    },
    [
      ['', now === undefined ? 'next free' : `K${now}, free`],
      ...NUMBERS.slice(0, ways).map((number) => [number, `K${number}`] as const),
    ],
  ),
]
const ESSENTIAL = [field.tick('Essential: somebody must always be able to work it', 'essential', { what: 'essential' })]

/** A channel of any kind, and its load. */
export function ChannelFields({ channel }: { channel: Channel }) {
  const site = useAppSelector((state) => state.site.site)!
  const change = useChange(channel.name, (draft) => withId(draft.channels, channel.id))
  const now = relaysOn(site, channel.controller).find((relay) => relay.channel.id === channel.id)?.relay
  const ways = controllerOf(site, channel.controller)?.module?.ways ?? 16
  const rows = common(now, Math.max(ways, channel.relay ?? 0))
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-2 @md:grid-cols-3 gap-2">
        <ChannelName key={channel.id} channel={channel} />
        <Fields rows={rows} of={channel} change={change} />
        <KindFields channel={channel} />
      </div>
      {channel.kind === 'stepped' && <SteppedFields channel={channel} />}
      <Fields rows={ESSENTIAL} of={channel} change={change} />
      <LoadFields channel={channel} />
    </div>
  )
}
