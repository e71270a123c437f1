import type { KeyboardEvent } from 'react'
import type { Channel } from '../../../core/site'
import { COLUMN_NAMES, COLUMNS, fillColumn, moveChannel, waysIn, type Column } from '../../../core/ways'
import { edit } from '../../store/editing'
import { isWide } from '../../parts/wide'
import { screenActions } from '../../store/screenSlice'
import { selectShown } from '../../store/selection'
import { useAppDispatch, useAppSelector, type Thunk } from '../../store/store'
import { clearCell, clearCells, makeWay, makeWays } from './cellEdits'
import { between, channelsInHand, choose } from './crossbarChoice'

/** Where the keyboard stands: a line and a column of what is shown. */
interface Place {
  readonly order: readonly Channel[]
  readonly row: number
  readonly column: number
  readonly channel: Channel
  readonly kind: Column
}

const clamped = <T>(list: readonly T[], at: number): T => list[Math.max(0, Math.min(list.length - 1, at))]!

const goTo = ({ order }: Place, row: number, column: number): Thunk<unknown> => {
  const cell = { channel: clamped(order, row).id, column: clamped(COLUMNS, column) }
  return (dispatch) => dispatch(screenActions.cellPicked(cell))
}

const move = ({ order, row, channel }: Place, by: number): Thunk =>
  edit(`move ${channel.name} ${by < 0 ? 'up' : 'down'}`, (draft) => moveChannel(draft, channel.id, order[row + by]?.id))

/** The chosen block grows or shrinks at its far end. */
const stretch =
  ({ order, row }: Place, by: number): Thunk =>
  (dispatch, getState) => {
    const { chosen } = getState().screen
    const rows = chosen.map((id) => order.findIndex((one) => one.id === id)).filter((at) => at >= 0)
    const far = rows.length === 0 ? row : Math.max(...rows) === row ? Math.min(...rows) : Math.max(...rows)
    const end = Math.max(0, Math.min(order.length - 1, far + by))
    dispatch(choose(between(order, row, end).map((one) => one.id)))
  }

/** Enter: the way where there is none, and then the hand goes to its fields. */
const work =
  ({ channel, kind }: Place, inHand: readonly string[]): Thunk =>
  (dispatch, getState) => {
    if (inHand.length > 1) return dispatch(makeWays(inHand, kind))
    const site = getState().site.site!
    const there =
      kind === 'rule'
        ? site.rules.some((rule) => rule.channel === channel.id)
        : waysIn(site, channel.id, kind).length > 0
    if (!there) dispatch(makeWay(channel, kind))
    if (!isWide() && getState().screen.panel !== 'findings') dispatch(screenActions.panelTurned('findings'))
    focusPanel()
  }

const fill = ({ kind }: Place, inHand: readonly string[], controller: string | null): Thunk => {
  const which = inHand.length > 1 ? { channels: inHand } : controller === null ? {} : { controllers: [controller] }
  return edit(`fill ${COLUMN_NAMES[kind]} column`, (draft) => void fillColumn(draft, kind, which))
}

/** Frames in which the panel of a cell may still be on its way: the drawer opens with the first cell. */
const MOST_FRAMES = 60

/** The hand goes to the first field of the cell's panel, as soon as it is there. */
function focusPanel(left = MOST_FRAMES, from = document.activeElement): void {
  requestAnimationFrame(() => {
    const field = document.querySelector<HTMLElement>('[data-cell-panel] :is(input, select)')
    if (field) field.focus()
    // a hand that has gone on meanwhile is not called back
    else if (left > 0 && document.activeElement === from) focusPanel(left - 1, from)
  })
}

/**
 * What each key does at a place. Shift with the arrows chooses several channels for one edit, Alt moves the channel.
 */
function actionsAt(place: Place, event: KeyboardEvent, chosen: readonly string[], controller: string | null) {
  const { row, column, channel, kind } = place
  const inHand = channelsInHand(channel.id, chosen)
  const upOrDown = (by: 1 | -1) =>
    event.altKey ? move(place, by) : event.shiftKey ? stretch(place, by) : goTo(place, row + by, column)
  const clear = () => (inHand.length > 1 ? clearCells(inHand, kind) : clearCell(channel, kind))
  const actions: Record<string, () => Thunk<unknown>> = {
    ArrowUp: () => upOrDown(-1),
    ArrowDown: () => upOrDown(1),
    ArrowLeft: () => goTo(place, row, column - 1),
    ArrowRight: () => goTo(place, row, column + 1),
    Home: () => goTo(place, row, 0),
    End: () => goTo(place, row, COLUMNS.length - 1),
    PageUp: () => goTo(place, row - 10, column),
    PageDown: () => goTo(place, row + 10, column),
    Enter: () => work(place, inHand),
    Delete: clear,
    Backspace: clear,
    Escape: () => (dispatch) => dispatch(choose([])),
    f: () => fill(place, inHand, controller),
  }
  return actions
}

/** The place of the cell that an event comes from; undefined: from none. */
function placeOf(order: readonly Channel[], event: KeyboardEvent): Place | undefined {
  const held = (event.target as HTMLElement).closest<HTMLElement>('[data-cell]')?.dataset['cell']?.split('/')
  const row = order.findIndex((candidate) => candidate.id === held?.[0])
  const column = COLUMNS.indexOf(held?.[1] as Column)
  const channel = order[row]
  return channel && column >= 0 ? { order, row, column, channel, kind: COLUMNS[column]! } : undefined
}

/** Walks and works the crossbar from the keyboard. */
export function useCrossbarKeys(order: readonly Channel[]): (event: KeyboardEvent) => void {
  const dispatch = useAppDispatch()
  const controller = useAppSelector(selectShown)
  const chosen = useAppSelector((state) => state.screen.chosen)
  return (event) => {
    const place = placeOf(order, event)
    if (!place || event.ctrlKey || event.metaKey) return
    // A digit typed on a cell begins to edit its first field.
    if (/^[0-9]$/.test(event.key)) return void focusPanel()
    const actions = actionsAt(place, event, chosen, controller)
    if (!Object.hasOwn(actions, event.key)) return
    event.preventDefault()
    event.stopPropagation()
    dispatch(actions[event.key]!())
  }
}
