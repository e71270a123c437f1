import type { KeyboardEvent } from 'react'
import type { Channel, Site } from '../../../core/site'
import {
  COLUMN_NAMES,
  COLUMNS,
  fillColumn,
  giveWallWay,
  makeUsualWay,
  removeRule,
  removeWay,
  waysIn,
  type Column,
} from '../../../core/ways'
import { edit } from '../../store/editing'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, useAppSelector, type Thunk } from '../../store/store'

const lower = (column: Column): string => COLUMN_NAMES[column].toLowerCase()

/** Makes the usual way of a cell, in a draft. A wall way takes an idle switch first. */
export function makeInDraft(draft: Site, channelId: string, column: Column): void {
  const target = draft.channels.find((candidate) => candidate.id === channelId)
  if (!target) return
  if (column === 'wall') giveWallWay(draft, target)
  else makeUsualWay(draft, target, column)
}

/** Takes every way (or rule) of a cell out of a draft. */
export function clearInDraft(draft: Site, channelId: string, column: Column): void {
  if (column === 'rule')
    for (const rule of draft.rules.filter((candidate) => candidate.channel === channelId)) removeRule(draft, rule.id)
  else for (const way of waysIn(draft, channelId, column)) removeWay(draft, way.id)
}

export const makeWay = (channel: Channel, column: Column): Thunk =>
  edit(`${lower(column)} way to ${channel.name}`, (draft) => makeInDraft(draft, channel.id, column))

export const clearCell = (channel: Channel, column: Column): Thunk =>
  edit(`no ${lower(column)} way to ${channel.name}`, (draft) => clearInDraft(draft, channel.id, column))

/** The channels that an edit of the picked cell is for: those chosen, or its own. */
export function channelsInHand(
  picked: { readonly channel: string } | null,
  chosen: readonly string[],
): readonly string[] {
  return chosen.length ? chosen : picked ? [picked.channel] : []
}

/** Adds a channel to those in hand, or (with `range`) all between. */
export const chooseAlso =
  (channel: string, range: boolean): Thunk =>
  (dispatch, getState) => {
    const { screen, site } = getState()
    if (!screen.cell) return
    const before = screen.chosen.length ? screen.chosen : [screen.cell.channel]
    const order = site.site!.channels.map((one) => one.id as string)
    const between = (a: string, b: string) =>
      order.slice(Math.min(order.indexOf(a), order.indexOf(b)), Math.max(order.indexOf(a), order.indexOf(b)) + 1)
    const next = range
      ? between(screen.cell.channel, channel)
      : before.includes(channel)
        ? before.filter((one) => one !== channel)
        : [...before, channel]
    dispatch(screenActions.channelsChosen(next.length > 1 ? next : []))
  }

/** A cell that the keyboard has reached; one that is chosen along with others stays so. */
export const focusCell =
  (channel: string, column: Column): Thunk =>
  (dispatch, getState) => {
    const { cell } = getState().screen
    if (cell?.channel !== channel || cell.column !== column) dispatch(screenActions.cellPicked({ channel, column }))
  }

const focusPanel = () =>
  requestAnimationFrame(() => document.querySelector<HTMLElement>('[data-cell-panel] :is(input, select)')?.focus())

/** Walks and works the crossbar from the keyboard. Shift with the arrows chooses several channels for one edit. */
export function useCrossbarKeys(order: readonly Channel[]): (event: KeyboardEvent) => void {
  const dispatch = useAppDispatch()
  const controller = useAppSelector((state) => state.screen.controller)
  const chosen = useAppSelector((state) => state.screen.chosen)
  const site = useAppSelector((state) => state.site.site)!
  return (event) => {
    const held = (event.target as HTMLElement).closest<HTMLElement>('[data-cell]')?.dataset['cell']?.split('/')
    const row = order.findIndex((channel) => channel.id === held?.[0])
    const column = COLUMNS.indexOf(held?.[1] as Column)
    const channel = order[row]
    if (!channel || column < 0 || event.ctrlKey || event.metaKey) return
    const kind = COLUMNS[column]!
    const go = (toRow: number, toColumn: number) => {
      const target = order[Math.max(0, Math.min(order.length - 1, toRow))]!
      dispatch(
        screenActions.cellPicked({
          channel: target.id,
          column: COLUMNS[Math.max(0, Math.min(COLUMNS.length - 1, toColumn))]!,
        }),
      )
    }
    const move = (by: number) =>
      dispatch(
        edit(`move ${channel.name} ${by < 0 ? 'up' : 'down'}`, (draft) => {
          const neighbour = order[row + by]
          const from = draft.channels.findIndex((candidate) => candidate.id === channel.id)
          const to = draft.channels.findIndex((candidate) => candidate.id === neighbour?.id)
          if (to < 0) return
          const [moved] = draft.channels.splice(from, 1)
          draft.channels.splice(to, 0, moved!)
        }),
      )
    /** the chosen block grows or shrinks at its far end */
    const stretch = (by: number) => {
      const rows = chosen.map((id) => order.findIndex((one) => one.id === id)).filter((at) => at >= 0)
      const far = rows.length === 0 ? row : Math.max(...rows) === row ? Math.min(...rows) : Math.max(...rows)
      const target = order[Math.max(0, Math.min(order.length - 1, far + by))]
      if (!target) return
      const block = order
        .slice(Math.min(row, order.indexOf(target)), Math.max(row, order.indexOf(target)) + 1)
        .map((one) => one.id as string)
      dispatch(screenActions.channelsChosen(block.length > 1 ? block : []))
    }
    const inHand = channelsInHand({ channel: channel.id }, chosen)
    const clear = () =>
      inHand.length > 1
        ? dispatch(
            edit(`no ${lower(kind)} way to ${inHand.length} channels`, (draft) =>
              inHand.forEach((id) => clearInDraft(draft, id, kind)),
            ),
          )
        : dispatch(clearCell(channel, kind))
    const isEmpty =
      kind === 'rule'
        ? !site.rules.some((rule) => rule.channel === channel.id)
        : waysIn(site, channel.id, kind).length === 0
    const actions: Record<string, () => void> = {
      ArrowUp: () => (event.altKey ? move(-1) : event.shiftKey ? stretch(-1) : go(row - 1, column)),
      ArrowDown: () => (event.altKey ? move(1) : event.shiftKey ? stretch(1) : go(row + 1, column)),
      ArrowLeft: () => go(row, column - 1),
      ArrowRight: () => go(row, column + 1),
      Home: () => go(row, 0),
      End: () => go(row, COLUMNS.length - 1),
      PageUp: () => go(row - 10, column),
      PageDown: () => go(row + 10, column),
      Enter: () => {
        if (inHand.length > 1)
          return void dispatch(
            edit(
              `${lower(kind)} ways to ${inHand.length} channels`,
              (draft) => void fillColumn(draft, kind, { channels: inHand }),
            ),
          )
        if (isEmpty) dispatch(makeWay(channel, kind))
        focusPanel()
      },
      Delete: clear,
      Backspace: clear,
      Escape: () => dispatch(screenActions.channelsChosen([])),
      f: () =>
        dispatch(
          edit(
            `fill ${COLUMN_NAMES[kind]} column`,
            (draft) =>
              void fillColumn(
                draft,
                kind,
                inHand.length > 1 ? { channels: inHand } : controller === null ? {} : { controllers: [controller] },
              ),
          ),
        ),
    }
    // A digit typed on a cell begins to edit its first field.
    if (/^[0-9]$/.test(event.key)) return void focusPanel()
    const action = actions[event.key]
    if (!action) return
    event.preventDefault()
    event.stopPropagation()
    action()
  }
}
