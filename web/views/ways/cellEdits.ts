import { toast } from 'sonner'
import { limitsPassed } from '../../../core/findings'
import { draftEdit, type Channel, type Site } from '../../../core/site'
import {
  COLUMN_NAMES,
  fillColumn,
  giveWallWay,
  makeUsualWay,
  removeRule,
  removeWay,
  waysIn,
  type Column,
} from '../../../core/ways'
import { edit, keep } from '../../store/editing'
import type { Thunk } from '../../store/store'

/** What the hand does to cells of the crossbar: one, or several of a column in one edit. */

export const lower = (column: Column): string => COLUMN_NAMES[column].toLowerCase()

/** Makes the usual way of a cell, in a draft. A wall way takes an idle switch first. */
function makeInDraft(draft: Site, channelId: string, column: Column): void {
  const target = draft.channels.find((candidate) => candidate.id === channelId)
  if (!target) return
  if (column === 'wall') giveWallWay(draft, target)
  else makeUsualWay(draft, target, column)
}

/** Takes every way (or rule) of a cell out of a draft. */
function clearInDraft(draft: Site, channelId: string, column: Column): void {
  if (column === 'rule')
    for (const rule of draft.rules.filter((candidate) => candidate.channel === channelId)) removeRule(draft, rule.id)
  else for (const way of waysIn(draft, channelId, column)) removeWay(draft, way.id)
}

/** An edit that fills: where it would pass what a plan allows, that is said first, and offered all the same. */
export const fillWithin =
  (label: string, change: (draft: Site) => void): Thunk =>
  (dispatch, getState) => {
    const { site } = getState().site
    if (!site) return
    const made = draftEdit(site, label, (draft) => change(draft as Site))
    const passed = limitsPassed(site, made.after)
    if (passed.length === 0) return dispatch(keep(made.edit))
    const onClick = () => dispatch(edit(label, change))
    toast.error(`Not filled yet: ${passed.join(' ')}`, {
      duration: 20_000,
      action: { label: 'Fill all the same', onClick },
    })
  }

export const makeWay = (channel: Channel, column: Column): Thunk =>
  edit(`${lower(column)} way to ${channel.name}`, (draft) => makeInDraft(draft, channel.id, column))

/** A way for each channel that has none in this column. */
export const makeWays = (channels: readonly string[], column: Column): Thunk =>
  fillWithin(`${lower(column)} ways to ${channels.length} channels`, (draft) => {
    if (column !== 'wall') return void fillColumn(draft, column, { channels })
    for (const id of channels) if (waysIn(draft, id, column).length === 0) makeInDraft(draft, id, column)
  })

export const clearCell = (channel: Channel, column: Column): Thunk =>
  edit(`delete ${lower(column)} way of ${channel.name}`, (draft) => clearInDraft(draft, channel.id, column))

export const clearCells = (channels: readonly string[], column: Column): Thunk =>
  edit(`delete ${lower(column)} ways of ${channels.length} channels`, (draft) =>
    channels.forEach((id) => clearInDraft(draft, id, column)),
  )
