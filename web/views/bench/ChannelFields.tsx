import type { Channel } from '../../../core/site'
import { Fields, fieldsOf } from '../../parts/form'
import { useChange, withId } from '../../store/useChange'
import { ChannelName } from './ChannelName'
import { KindFields } from './KindFields'
import { LoadFields } from './LoadFields'
import { SteppedFields } from './SteppedFields'

const field = fieldsOf<Channel>()
const NUMBERS = Array.from({ length: 16 }, (_, index) => String(index + 1))
const COMMON = [
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
    [['', 'the next free'], ...NUMBERS.map((number) => [number, `K${number}`] as const)],
  ),
]
const ESSENTIAL = [field.tick('Essential: somebody must always be able to work it', 'essential', { what: 'essential' })]

/** A channel of any kind, and its load. */
export function ChannelFields({ channel }: { channel: Channel }) {
  const change = useChange(channel.name, (draft) => withId(draft.channels, channel.id))
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-3 gap-2">
        <ChannelName key={channel.id} channel={channel} />
        <Fields rows={COMMON} of={channel} change={change} />
        <KindFields channel={channel} />
      </div>
      {channel.kind === 'stepped' && <SteppedFields channel={channel} />}
      <Fields rows={ESSENTIAL} of={channel} change={change} />
      <LoadFields channel={channel} />
    </div>
  )
}
