import type { Channel, VoiceWay } from '../../../core/site'
import { betterName } from '../../../core/voice'
import { Fields, fieldsOf } from '../../parts/form'
import { useAppSelector } from '../../store/store'
import { useChange, withId } from '../../store/useChange'
import { SayLine } from './SayLine'

const field = fieldsOf<VoiceWay>()
const NAME = field.text('Spoken name', 'name', {
  what: 'name',
  check: (text) => (text.trim() && text.length <= 60 ? null : 'a name of at most 60 characters'),
})
const KEY = field.text(
  'Id at the service',
  {
    read: (way) => way.key ?? '',
    write: (way, key) => {
      if (key.trim() === '') delete way.key
      else way.key = key.trim()
    },
  },
  {
    what: 'id at the voice service',
    mono: true,
    hint: 'the id that the bridge shows for this lamp',
    check: (text) => (text.length <= 80 ? null : 'at most 80'),
  },
)
const PIN = field.tick('The service asks for a spoken PIN', 'pin', { what: 'PIN' })

/** By which of the channel's other ways the name arrives. */
const carriedBy = (carriers: readonly { readonly id: string; readonly kind: string }[]) =>
  field.choice(
    'Works through',
    {
      read: (way) => (way.through ?? '') as string,
      write: (way, id) => {
        way.through = (id || null) as VoiceWay['through']
      },
    },
    [
      ['', 'the bridge itself, by its id'],
      ...carriers.map(({ id, kind }) => [id, kind === 'hub' ? 'the hub' : 'the app service'] as const),
    ],
    { what: 'way' },
  )

export function VoiceFields({ way, channel }: { way: VoiceWay; channel: Channel }) {
  const site = useAppSelector((state) => state.site.site)!
  const carriers = site.ways.filter(
    (other) => other.channel === channel.id && (other.kind === 'app' || other.kind === 'hub'),
  )
  const change = useChange(`“${way.name}”`, (draft) => {
    const target = withId(draft.ways, way.id)
    return target?.kind === 'voice' ? target : undefined
  })
  const better = betterName(site, way.id)
  const take = (name: string) =>
    change('another name', (target) => {
      target.name = name
    })
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-2 gap-2">
        <Fields rows={[NAME, carriedBy(carriers), KEY]} of={way} change={change} />
      </div>
      <Fields rows={[PIN]} of={way} change={change} />
      {better && (
        <button type="button" className="press-quiet -ml-1.5" onClick={() => take(better)}>
          Rename to “{better}”
        </button>
      )}
      <SayLine />
    </div>
  )
}
