import {
  idFromName,
  loadOf,
  newLoad,
  type Channel,
  type Load,
  type LoadId,
  type SteppedChannel,
} from '../../../core/site'
import { ChoiceField, NumberField, TextField, TickField } from '../../parts/fields'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { LastingFields, PairedFields, PulsedFields } from './KindFields'

const noName = (text: string): string | null => (text.trim() ? null : 'a name is needed')

/** A channel of any kind, and its load. */
export function ChannelFields({ channel }: { channel: Channel }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const load = loadOf(site, channel.load)
  const change = (label: string, mutate: (channel: Channel) => void) =>
    dispatch(edit(`${channel.name}: ${label}`, (draft) => mutate(draft.channels.find((c) => c.id === channel.id)!)))
  const changeLoad = (label: string, mutate: (load: Load) => void) =>
    dispatch(
      edit(`${channel.name}: ${label}`, (draft) => {
        let target = draft.loads.find((candidate) => candidate.id === channel.load)
        if (!target) {
          const id = idFromName<string>(
            `${channel.id}-load`,
            draft.loads.map((l) => l.id),
            'load',
          ) as LoadId
          target = newLoad(id, channel.name)
          draft.loads.push(target)
          draft.channels.find((c) => c.id === channel.id)!.load = id
        }
        const id = target.id
        mutate(draft.loads.find((l) => l.id === id)!)
      }),
    )
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-3 gap-2">
        <TextField
          label="Name"
          value={channel.name}
          check={noName}
          onKeep={(name) =>
            change('name', (c) => {
              c.name = name
            })
          }
        />
        <ChoiceField
          label="Relay closes on"
          value={channel.active}
          choices={[
            ['low', 'low'],
            ['high', 'high'],
          ]}
          onKeep={(active) =>
            change('polarity', (c) => {
              c.active = active
            })
          }
        />
        {(channel.kind === 'switched' || channel.kind === 'stepped') && <LastingFields channel={channel} />}
        {channel.kind === 'pulsed' && <PulsedFields channel={channel} />}
        {channel.kind === 'paired' && <PairedFields channel={channel} />}
        {channel.kind === 'feed' && (
          <p className="col-span-3 text-note text-soft">
            Closed after a power cut and while the hub lives: its lamps need power. With the hub gone its own switch
            works it.
          </p>
        )}
      </div>
      {channel.kind === 'stepped' && <SteppedFields channel={channel} />}
      <TickField
        label="Essential: somebody must always be able to work it"
        value={channel.essential}
        onKeep={(essential) =>
          change('essential', (c) => {
            c.essential = essential
          })
        }
      />
      <div className="grid grid-cols-3 gap-2 border-t border-hair pt-2">
        <TextField
          label="Load"
          value={load?.name ?? ''}
          check={noName}
          onKeep={(name) =>
            changeLoad('load', (l) => {
              l.name = name
            })
          }
        />
        <ChoiceField
          label="Type"
          value={load?.type ?? 'unknown'}
          choices={[
            ['led', 'LED'],
            ['incandescent', 'incandescent'],
            ['motor', 'motor'],
            ['heater', 'heater'],
            ['electronic', 'electronic'],
            ['unknown', 'not known'],
          ]}
          onKeep={(type) =>
            changeLoad('load type', (l) => {
              l.type = type
            })
          }
        />
        <NumberField
          label="Power"
          unit="W"
          value={load?.watts ?? 0}
          least={0}
          most={10_000}
          onKeep={(watts) =>
            changeLoad('power', (l) => {
              l.watts = watts
            })
          }
        />
        <ChoiceField
          label="Supply"
          value={load?.supply ?? 'mains'}
          choices={[
            ['mains', `mains, ${site.mains.volts} V`],
            ['low-voltage', 'low voltage'],
          ]}
          onKeep={(supply) =>
            changeLoad('supply', (l) => {
              l.supply = supply
            })
          }
        />
        <ChoiceField
          label="Through the contact"
          value={load?.contact ?? 'line'}
          choices={[
            ['line', 'line'],
            ['neutral', 'neutral'],
          ]}
          onKeep={(contact) =>
            changeLoad('contact', (l) => {
              l.contact = contact
            })
          }
        />
        <ChoiceField
          label="Suppression"
          value={load?.suppression ?? 'none'}
          choices={[
            ['none', 'none'],
            ['snubber', 'snubber'],
            ['varistor', 'varistor'],
            ['diode', 'diode'],
          ]}
          onKeep={(suppression) =>
            changeLoad('suppression', (l) => {
              l.suppression = suppression
            })
          }
        />
        <TickField
          label="On for hours"
          value={load?.continuous ?? false}
          onKeep={(on) =>
            changeLoad('on for hours', (l) => {
              l.continuous = on
            })
          }
        />
        <TickField
          label="Contactor between"
          value={load?.contactor ?? false}
          onKeep={(on) =>
            changeLoad('contactor', (l) => {
              l.contactor = on
            })
          }
        />
        <TickField
          label="Shares its box"
          value={load?.sharesBox ?? false}
          onKeep={(on) =>
            changeLoad('shared box', (l) => {
              l.sharesBox = on
            })
          }
        />
      </div>
      {(load?.supply ?? 'mains') === 'mains' && (
        <p className="border-l-2 border-error pl-2 text-note text-soft">
          Mains: supply off and proved dead before the box is opened, line through the contact, covers on before power.
          A licensed electrician where the law asks for one; local code decides.
        </p>
      )}
    </div>
  )
}

const contactsText = (contacts: readonly number[]): string => contacts.map((contact) => contact + 1).join(' ')
const contactsOf = (text: string): number[] =>
  [
    ...new Set(
      text
        .trim()
        .split(/[\s,+]+/)
        .filter(Boolean)
        .map((word) => Number(word) - 1),
    ),
  ].sort()
const contactsCheck =
  (most: number) =>
  (text: string): string | null =>
    text.trim() === '' ||
    text
      .trim()
      .split(/[\s,+]+/)
      .every((word) => /^[1-4]$/.test(word) && Number(word) <= most)
      ? null
      : `contacts from 1 to ${most}`

/** Contacts of each level, what must never be closed together, and the gap between. */
function SteppedFields({ channel }: { channel: SteppedChannel }) {
  const dispatch = useAppDispatch()
  const change = (label: string, mutate: (channel: SteppedChannel) => void) =>
    dispatch(
      edit(`${channel.name}: ${label}`, (draft) => {
        const target = draft.channels.find((c) => c.id === channel.id)
        if (target?.kind === 'stepped') mutate(target)
      }),
    )
  return (
    <fieldset className="border-t border-hair pt-2">
      <legend className="sr-only">Levels</legend>
      <div className="grid grid-cols-4 gap-2">
        {channel.patterns.slice(1).map((pattern, i) => (
          <TextField
            key={i}
            mono
            label={`Level ${i + 1} closes`}
            value={contactsText(pattern)}
            check={contactsCheck(channel.contacts)}
            onKeep={(text) =>
              change(`level ${i + 1}`, (c) => {
                c.patterns[i + 1] = contactsOf(text)
              })
            }
          />
        ))}
        <TextField
          mono
          label="Never together"
          value={contactsText(channel.never[0] ?? [])}
          check={contactsCheck(channel.contacts)}
          onKeep={(text) =>
            change('never together', (c) => {
              const set = contactsOf(text)
              if (set.length) c.never[0] = set
              else c.never.splice(0, 1)
            })
          }
        />
        <NumberField
          label="Gap"
          unit="ms"
          value={channel.gapMs}
          least={0}
          most={1000}
          onKeep={(gapMs) =>
            change('gap', (c) => {
              c.gapMs = gapMs
            })
          }
        />
        <NumberField
          label="On gives level"
          value={channel.onLevel}
          least={1}
          most={channel.patterns.length - 1}
          onKeep={(level) =>
            change('on level', (c) => {
              c.onLevel = level
            })
          }
        />
        <div className="self-end">
          <TickField
            label="Up from the top is off"
            value={channel.wrap}
            onKeep={(wrap) =>
              change('wrap', (c) => {
                c.wrap = wrap
              })
            }
          />
        </div>
      </div>
      <div className="mt-1 flex gap-2">
        <button
          type="button"
          className="press-quiet -ml-1.5"
          disabled={channel.patterns.length >= 9}
          onClick={() =>
            change('one level more', (c) => {
              c.patterns.push([])
            })
          }
        >
          one level more
        </button>
        <button
          type="button"
          className="press-quiet"
          disabled={channel.patterns.length <= 2}
          onClick={() =>
            change('one level less', (c) => {
              c.patterns.pop()
              c.onLevel = Math.min(c.onLevel, c.patterns.length - 1)
            })
          }
        >
          one level less
        </button>
      </div>
    </fieldset>
  )
}
