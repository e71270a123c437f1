import { roomOf, type Site } from '../../../core/site'
import type { Column } from '../../../core/ways'
import { edit } from '../../store/editing'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, type Thunk } from '../../store/store'
import { clearCells, lower, makeWays } from './cellEdits'

type Press = readonly [words: string, Thunk]

const setFeedback = (channels: readonly string[], column: Column, feedback: 'reports' | 'silent'): Thunk =>
  edit(`${channels.length} ${lower(column)} ways: ${feedback === 'reports' ? 'report' : 'silent'}`, (draft) => {
    for (const way of draft.ways)
      if (channels.includes(way.channel) && way.kind === column && 'feedback' in way) way.feedback = feedback
  })

/** The first word of the room that a channel is in, as it would be spoken. */
const roomWord = (site: Site, channelId: string): string | undefined => {
  const channel = site.channels.find((candidate) => candidate.id === channelId)
  return roomOf(site, channel?.room ?? null)
    ?.name.split(' ')[0]
    ?.toLowerCase()
}

const nameWithRoom = (channels: readonly string[]): Thunk =>
  edit(`${channels.length} names with their room`, (draft) => {
    for (const way of draft.ways) {
      if (way.kind !== 'voice' || !channels.includes(way.channel)) continue
      const room = roomWord(draft, way.channel)
      if (room && !way.name.startsWith(room)) way.name = `${room} ${way.name}`.slice(0, 60)
    }
  })

const settleAlike = (channels: readonly string[]): Thunk =>
  edit(`settle time of ${channels.length} switches`, (draft) => {
    const inputs = draft.ways.flatMap((way) =>
      way.kind === 'wall' && channels.includes(way.channel) ? [way.input as string] : [],
    )
    for (const input of draft.inputs) if (inputs.includes(input.id)) input.settleMs = 25
  })

/** What only some columns offer for many cells. */
function moreFor(column: Column, channels: readonly string[]): readonly Press[] {
  switch (column) {
    case 'app':
    case 'hub':
      return [
        ['Reports back', setFeedback(channels, column, 'reports')],
        ['Never reports back', setFeedback(channels, column, 'silent')],
      ]
    case 'voice':
      return [['Add the room before each name', nameWithRoom(channels)]]
    case 'wall':
      return [['Set settle time: 25 ms', settleAlike(channels)]]
    default:
      return []
  }
}

/** Several cells of one column: made, taken out or changed in one edit. */
export function ManyCells({ channels, column }: { channels: readonly string[]; column: Column }) {
  const dispatch = useAppDispatch()
  const presses: readonly Press[] = [
    ['Add one to each', makeWays(channels, column)],
    ['Delete all', clearCells(channels, column)],
    ...moreFor(column, channels),
  ]
  return (
    <section
      aria-label={`${channels.length} channels by ${lower(column)}`}
      data-cell-panel
      className="mb-4 border-b-2 border-ink pb-4"
    >
      <h2 className="text-head font-bold">
        {channels.length} channels, by {lower(column)}
      </h2>
      <p className="text-note text-soft">One edit for all; one undo.</p>
      <div className="mt-2 flex flex-wrap gap-1.5">
        {presses.map(([words, press]) => (
          <button key={words} type="button" className="press" onClick={() => dispatch(press)}>
            {words}
          </button>
        ))}
        <button type="button" className="press-quiet" onClick={() => dispatch(screenActions.channelsChosen([]))}>
          Cancel selection
        </button>
      </div>
    </section>
  )
}
