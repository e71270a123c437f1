import type { KeyboardEvent } from 'react'
import type { Channel } from '../../../core/site'
import { addAppWay, addHubWay, COLUMN_NAMES, COLUMNS, fillColumn, giveWallWay, removeWay, type Column } from '../../../core/ways'
import { edit } from '../../store/editing'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, useAppSelector, type Thunk } from '../../store/store'

/** Makes the usual way where there is none. */
export const makeWay = (channel: Channel, column: Column): Thunk =>
  edit(`${COLUMN_NAMES[column].toLowerCase()} way to ${channel.name}`, (draft) => {
    const target = draft.channels.find((candidate) => candidate.id === channel.id)!
    if (column === 'wall') giveWallWay(draft, target)
    else if (column === 'app') addAppWay(draft, target)
    else addHubWay(draft, target)
  })

/** Takes every way of a cell out. */
export const clearCell = (channel: Channel, column: Column): Thunk =>
  edit(`no ${COLUMN_NAMES[column].toLowerCase()} way to ${channel.name}`, (draft) => {
    for (const way of draft.ways.filter((candidate) => candidate.channel === channel.id && candidate.kind === column)) removeWay(draft, way.id)
  })

const focusPanel = () => requestAnimationFrame(() => document.querySelector<HTMLElement>('[data-cell-panel] :is(input, select)')?.focus())

/** Walks and works the crossbar from the keyboard. */
export function useCrossbarKeys(order: readonly Channel[]): (event: KeyboardEvent) => void {
  const dispatch = useAppDispatch()
  const controller = useAppSelector((state) => state.screen.controller)
  const site = useAppSelector((state) => state.site.site)!
  return (event) => {
    const held = (event.target as HTMLElement).closest<HTMLElement>('[data-cell]')?.dataset['cell']?.split('/')
    const row = order.findIndex((channel) => channel.id === held?.[0])
    const column = COLUMNS.indexOf(held?.[1] as Column)
    const channel = order[row]
    if (!channel || column < 0 || event.ctrlKey || event.metaKey) return
    const go = (toRow: number, toColumn: number) => {
      const target = order[Math.max(0, Math.min(order.length - 1, toRow))]!
      dispatch(screenActions.cellPicked({ channel: target.id, column: COLUMNS[Math.max(0, Math.min(COLUMNS.length - 1, toColumn))]! }))
    }
    const kind = COLUMNS[column]!
    const move = (by: number) =>
      dispatch(edit(`move ${channel.name} ${by < 0 ? 'up' : 'down'}`, (draft) => {
        const neighbour = order[row + by]
        const from = draft.channels.findIndex((candidate) => candidate.id === channel.id)
        const to = draft.channels.findIndex((candidate) => candidate.id === neighbour?.id)
        if (to < 0) return
        const [moved] = draft.channels.splice(from, 1)
        draft.channels.splice(to, 0, moved!)
      }))
    const actions: Record<string, () => void> = {
      ArrowUp: () => (event.altKey ? move(-1) : go(row - 1, column)),
      ArrowDown: () => (event.altKey ? move(1) : go(row + 1, column)),
      ArrowLeft: () => go(row, column - 1),
      ArrowRight: () => go(row, column + 1),
      Home: () => go(row, 0),
      End: () => go(row, COLUMNS.length - 1),
      PageUp: () => go(row - 10, column),
      PageDown: () => go(row + 10, column),
      Enter: () => {
        if (!site.ways.some((way) => way.channel === channel.id && way.kind === kind)) dispatch(makeWay(channel, kind))
        focusPanel()
      },
      Delete: () => dispatch(clearCell(channel, kind)),
      Backspace: () => dispatch(clearCell(channel, kind)),
      f: () => dispatch(edit(`fill ${COLUMN_NAMES[kind]} column`, (draft) => void fillColumn(draft, kind, controller === null ? {} : { controllers: [controller] }))),
    }
    // A digit typed on a cell begins to edit its first field.
    if (/^[0-9]$/.test(event.key)) return focusPanel()
    const action = actions[event.key]
    if (!action) return
    event.preventDefault()
    event.stopPropagation()
    action()
  }
}
