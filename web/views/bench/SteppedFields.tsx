import type { SteppedChannel } from '../../../core/site'
import { Fields, fieldsOf, type FieldRow } from '../../parts/form'
import { useChannelChange } from './KindFields'

const contactsText = (contacts: readonly number[]): string => contacts.map((contact) => contact + 1).join(' ')
const wordsIn = (text: string): string[] =>
  text
    .trim()
    .split(/[\s,+]+/)
    .filter(Boolean)
const contactsIn = (text: string): number[] => [...new Set(wordsIn(text).map((word) => Number(word) - 1))].sort()
const contactsCheck = (text: string, { contacts }: SteppedChannel): string | null =>
  wordsIn(text).every((word) => /^[1-4]$/.test(word) && Number(word) <= contacts)
    ? null
    : `contacts from 1 to ${contacts}`

/** One word a contact: µF, or a dash for a contact that passes its capacitors by. */
const capacitorsCheck = (text: string, { contacts }: SteppedChannel): string | null =>
  wordsIn(text).length <= contacts &&
  wordsIn(text).every((word) => word === '-' || (Number(word) > 0 && Number(word) <= 100))
    ? null
    : `at most ${contacts}: µF, or - for straight through`

const field = fieldsOf<SteppedChannel>()
const levelField = (level: number): FieldRow<SteppedChannel> =>
  field.text(
    `Level ${level} closes`,
    {
      read: (channel) => contactsText(channel.patterns[level] ?? []),
      write: (channel, text) => {
        channel.patterns[level] = contactsIn(text)
      },
    },
    { what: `level ${level}`, mono: true, check: contactsCheck },
  )

const REST = [
  field.text(
    'Never together',
    {
      read: (channel) => contactsText(channel.never[0] ?? []),
      write: (channel, text) => {
        const set = contactsIn(text)
        if (set.length) channel.never[0] = set
        else channel.never.splice(0, 1)
      },
    },
    { mono: true, check: contactsCheck },
  ),
  field.text(
    'Capacitors',
    {
      read: ({ capacitors }) => (capacitors ?? []).map((one) => (one === null ? '-' : String(one))).join(' '),
      write: (channel, text) => {
        const words = wordsIn(text)
        if (words.length === 0) delete channel.capacitors
        else channel.capacitors = words.map((word) => (word === '-' ? null : Number(word)))
      },
    },
    { unit: 'µF a contact', mono: true, check: capacitorsCheck },
  ),
  field.number('Gap', 'gapMs', { unit: 'ms', least: 0, most: 1000 }),
  field.number('“On” sets level', 'onLevel', {
    what: 'on level',
    least: 1,
    most: (channel) => channel.patterns.length - 1,
  }),
  field.tick('Up from the top level turns off', 'wrap', { what: 'wrap', place: 'self-end' }),
]

/** Contacts of each level, what must never be closed together, and the gap between. */
export function SteppedFields({ channel }: { channel: SteppedChannel }) {
  const change = useChannelChange(channel)
  const levels = channel.patterns.slice(1).map((_, i) => levelField(i + 1))
  const more = () =>
    change('add level', (target) => {
      target.patterns.push([])
    })
  const less = () =>
    change('delete level', (target) => {
      target.patterns.pop()
      target.onLevel = Math.min(target.onLevel, target.patterns.length - 1)
    })
  return (
    <fieldset className="border-t border-hair pt-2">
      <legend className="sr-only">Levels</legend>
      <div className="grid grid-cols-2 @md:grid-cols-4 gap-2">
        <Fields rows={[...levels, ...REST]} of={channel} change={change} />
      </div>
      <div className="mt-1 flex gap-2">
        <button type="button" className="press-quiet -ml-1.5" disabled={channel.patterns.length >= 9} onClick={more}>
          Add level
        </button>
        <button type="button" className="press-quiet" disabled={channel.patterns.length <= 2} onClick={less}>
          Delete level
        </button>
      </div>
    </fieldset>
  )
}
