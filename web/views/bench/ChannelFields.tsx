import { idFromName, loadOf, newLoad, type Channel, type Load, type LoadId, type Site } from '../../../core/site'
import { Fields, fieldsOf, needsName } from '../../parts/form'
import { useAppSelector } from '../../store/store'
import { useChange, withId } from '../../store/useChange'
import { ChannelName } from './ChannelName'
import { KindFields } from './KindFields'
import { SteppedFields } from './SteppedFields'

const channelField = fieldsOf<Channel>()
const COMMON = [
  channelField.choice(
    'Relay closes on',
    'active',
    [
      ['low', 'low'],
      ['high', 'high'],
    ],
    { what: 'polarity' },
  ),
]
const ESSENTIAL = [
  channelField.tick('Essential: somebody must always be able to work it', 'essential', { what: 'essential' }),
]

const loadField = fieldsOf<Load>()
const loadFields = (site: Site) => [
  loadField.text('Load', 'name', { check: needsName }),
  loadField.choice(
    'Type',
    'type',
    [
      ['led', 'LED'],
      ['incandescent', 'incandescent'],
      ['motor', 'motor'],
      ['heater', 'heater'],
      ['electronic', 'electronic'],
      ['unknown', 'not known'],
    ],
    { what: 'load type' },
  ),
  loadField.number('Power', 'watts', { unit: 'W', least: 0, most: 10_000 }),
  loadField.choice('Supply', 'supply', [
    ['mains', `mains, ${site.mains.volts} V`],
    ['low-voltage', 'low voltage'],
  ]),
  loadField.choice(
    'Through the contact',
    'contact',
    [
      ['line', 'line'],
      ['neutral', 'neutral'],
    ],
    { what: 'contact' },
  ),
  loadField.choice('Suppression', 'suppression', [
    ['none', 'none'],
    ['snubber', 'snubber'],
    ['varistor', 'varistor'],
    ['diode', 'diode'],
  ]),
  loadField.tick('On for hours', 'continuous'),
  loadField.tick('Contactor between', 'contactor', { what: 'contactor' }),
  loadField.tick('Shares its box', 'sharesBox', { what: 'shared box' }),
]

/** What is shown of a load that nobody has named yet. */
const UNNAMED = newLoad('none' as LoadId, '')

/** The load of a channel in a draft, made there where it has none yet. */
function loadIn(draft: Site, channel: Channel): Load | undefined {
  const target = withId(draft.channels, channel.id)
  if (!target) return undefined
  if (target.load === null) {
    const id = idFromName<LoadId>(
      `${channel.id}-load`,
      draft.loads.map((load) => load.id),
      'load',
    )
    draft.loads.push(newLoad(id, channel.name))
    target.load = id
  }
  return loadOf(draft, target.load)
}

/** A channel of any kind, and its load. */
export function ChannelFields({ channel }: { channel: Channel }) {
  const site = useAppSelector((state) => state.site.site)!
  const load = loadOf(site, channel.load) ?? UNNAMED
  const change = useChange(channel.name, (draft) => withId(draft.channels, channel.id))
  const changeLoad = useChange(channel.name, (draft) => loadIn(draft, channel))
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-3 gap-2">
        <ChannelName key={channel.id} channel={channel} />
        <Fields rows={COMMON} of={channel} change={change} />
        <KindFields channel={channel} />
      </div>
      {channel.kind === 'stepped' && <SteppedFields channel={channel} />}
      <Fields rows={ESSENTIAL} of={channel} change={change} />
      <div className="grid grid-cols-3 gap-2 border-t border-hair pt-2">
        <Fields rows={loadFields(site)} of={load} change={changeLoad} />
      </div>
      {load.supply === 'mains' && (
        <p className="border-l-2 border-error pl-2 text-note text-soft">
          Mains: supply off and proved dead before the box is opened, line through the contact, covers on before power.
          A licensed electrician where the law asks for one; local code decides.
        </p>
      )}
    </div>
  )
}
