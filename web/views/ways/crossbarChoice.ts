import type { Column } from '../../../core/ways'
import { screenActions } from '../../store/screenSlice'
import type { Thunk } from '../../store/store'

/** Which cells are in hand: the picked one, and channels chosen along with it for one edit of many. */

/** The channels that an edit of the picked cell is for: those chosen, or its own. */
export const channelsInHand = (picked: string, chosen: readonly string[]): readonly string[] =>
  chosen.length ? chosen : [picked]

/** Those of an order from one place to another, whichever comes first. */
export const between = <T>(order: readonly T[], a: number, b: number): T[] =>
  order.slice(Math.min(a, b), Math.max(a, b) + 1)

/** Several channels, or none: a block of one is only the picked cell. */
export const choose = (channels: readonly string[]) => screenActions.channelsChosen(channels.length > 1 ? channels : [])

/** Adds a channel to those in hand, or (with `range`) all between. */
export const chooseAlso =
  (channel: string, range: boolean): Thunk =>
  (dispatch, getState) => {
    const { screen, site } = getState()
    if (!screen.cell) return
    const before = channelsInHand(screen.cell.channel, screen.chosen)
    if (range) {
      const order = site.site!.channels.map((one) => one.id as string)
      dispatch(choose(between(order, order.indexOf(screen.cell.channel), order.indexOf(channel))))
    } else {
      dispatch(choose(before.includes(channel) ? before.filter((one) => one !== channel) : [...before, channel]))
    }
  }

/** A cell that the keyboard has reached; one that is chosen along with others stays so. */
export const focusCell =
  (channel: string, column: Column): Thunk =>
  (dispatch, getState) => {
    const { cell } = getState().screen
    if (cell?.channel !== channel || cell.column !== column) dispatch(screenActions.cellPicked({ channel, column }))
  }
