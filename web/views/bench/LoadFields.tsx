import { modulesIn, type ContactorProfile } from '../../../core/boards'
import { idFromName, loadOf, newLoad, type Channel, type Load, type LoadId, type Site } from '../../../core/site'
import { Fields, fieldsOf, needsName } from '../../parts/form'
import { useAppSelector } from '../../store/store'
import { useChange, withId } from '../../store/useChange'

const field = fieldsOf<Load>()
const onMains = ({ supply }: Load): boolean => supply === 'mains'
const onLow = ({ supply }: Load): boolean => supply === 'low-voltage'
const isFed = ({ supply }: Load): boolean => supply !== 'dry'

const WHAT = [
  field.text('Load', 'name', { check: needsName }),
  field.choice(
    'Type',
    'type',
    [
      ['led', 'LED'],
      ['incandescent', 'incandescent'],
      ['motor', 'motor'],
      ['heater', 'heater'],
      ['electronic', 'electronic'],
      ['coil', 'coil: strike, valve'],
      ['unknown', 'unknown'],
    ],
    { what: 'load type', when: isFed },
  ),
  field.number('Power', 'watts', { unit: 'W', least: 0, most: 10_000, when: isFed }),
]

/** The load of another channel that gives this one its power. */
const whichSupply = (site: Site, own: LoadId) =>
  field.choice(
    'Switched supply',
    {
      read: ({ feed }) => (feed.from === 'load' ? (feed.load as string) : ''),
      write: (load, id) => {
        load.feed = { from: 'load', load: id as LoadId }
      },
    },
    site.loads.filter(({ id }) => id !== own).map(({ id, name }) => [id as string, name] as const),
    { what: 'switched supply', when: ({ supply, feed }) => supply === 'low-voltage' && feed.from === 'load' },
  )

const LOW = [
  field.number('Volts', 'volts', { unit: 'V', least: 1, most: 60, when: onLow }),
  field.choice(
    'Current',
    'current',
    [
      ['dc', 'direct'],
      ['ac', 'alternating'],
    ],
    { when: onLow },
  ),
]
const lowFields = (site: Site, own: LoadId) => [
  ...LOW,
  field.choice(
    'Fed from',
    {
      read: ({ feed }) => feed.from,
      write: (load, from) => {
        const other = site.loads.find(({ id }) => id !== own)
        if (from === 'shared') load.feed = { from, name: 'Low-voltage supply' }
        else if (from !== 'load') load.feed = { from }
        else if (other) load.feed = { from, load: other.id }
      },
    },
    [
      ['own', 'own supply'],
      ['shared', 'shared supply'],
      ['controller', 'supply of the controller'],
      ['load', 'supply that another channel switches'],
    ],
    { what: 'feed', when: onLow },
  ),
  whichSupply(site, own),
  field.text(
    'Name of the supply',
    {
      read: ({ feed }) => (feed.from === 'shared' ? feed.name : ''),
      write: (load, name) => {
        if (load.feed.from === 'shared') load.feed = { from: 'shared', name }
      },
    },
    { check: needsName, when: ({ supply, feed }) => supply === 'low-voltage' && feed.from === 'shared' },
  ),
]

const REST = [
  field.choice(
    'Contact switches',
    'contact',
    [
      ['line', 'line'],
      ['neutral', 'neutral'],
    ],
    { what: 'contact', when: onMains },
  ),
  field.choice(
    'Suppression',
    'suppression',
    [
      ['none', 'none'],
      ['snubber', 'snubber'],
      ['varistor', 'varistor'],
      ['diode', 'diode'],
    ],
    { when: isFed },
  ),
  field.tick('Old switch stays in parallel', 'parallelSwitch', { what: 'old switch', when: onMains }),
  field.tick(
    'Between two lines',
    {
      read: ({ acrossLines }) => acrossLines === true,
      write: (load, across) => {
        if (across) load.acrossLines = true
        else delete load.acrossLines
      },
    },
    { what: 'two lines', when: onMains },
  ),
  field.tick('On for 3 h or more', 'continuous', { when: isFed }),
  field.tick('Same box as the relay', 'sharesBox', { what: 'shared box', when: isFed }),
  field.note('Two wires to the button input of another device. Measure there first: nothing of yours may feed it.', {
    place: 'col-span-3',
    when: ({ supply }) => supply === 'dry',
  }),
]

function loadFields(site: Site, own: LoadId) {
  const contactors = modulesIn(site).filter((one): one is ContactorProfile => one.kind === 'contactor')
  return [
    ...WHAT,
    field.choice('Supply', 'supply', [
      ['mains', `mains, ${site.mains.volts} V`],
      ['low-voltage', 'low voltage'],
      ['dry', 'none (button input)'],
    ]),
    ...lowFields(site, own),
    field.choice(
      'Contactor',
      {
        read: ({ contactor }) => contactor ?? '',
        write: (load, id) => {
          load.contactor = id === '' ? null : id
        },
      },
      [['', 'none'], ...contactors.map((one) => [one.id, one.name] as const)],
      { what: 'contactor', when: isFed, place: 'col-span-2' },
    ),
    ...REST,
  ]
}

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

/** What a channel switches: volts, contactor, suppression. */
export function LoadFields({ channel }: { channel: Channel }) {
  const site = useAppSelector((state) => state.site.site)!
  const load = loadOf(site, channel.load) ?? UNNAMED
  const change = useChange(channel.name, (draft) => loadIn(draft, channel))
  return (
    <>
      <div className="grid grid-cols-2 @md:grid-cols-3 gap-2 border-t border-hair pt-2">
        <Fields rows={loadFields(site, load.id)} of={load} change={change} />
      </div>
      {load.supply === 'mains' && (
        <p className="border-l-2 border-error pl-2 text-note text-soft">
          Mains: supply off and proved dead before the box is opened, line through the contact, covers on before power.
          A licensed electrician where the law asks for one; local code decides.
        </p>
      )}
    </>
  )
}
