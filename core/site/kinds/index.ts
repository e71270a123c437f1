/** The table of kinds: what is true of a kind of channel stands in its record, once. */
import type { Channel, PowerUp } from '../channels'
import type { InputId } from '../ids'
import type { ChannelAction } from '../ways'
import { feed } from './feed'
import type { ActionRow, ChannelOf, Kind, OutputRow } from './kind'
import { paired } from './paired'
import { pulsed } from './pulsed'
import { stepped } from './stepped'
import { switched } from './switched'

export { SPOKEN_WORDS } from './kind'
export type { ActionRow, ChannelOf, CommonShape, Kind, Misfit, OutputRow, Position, SpokenWord, Timing } from './kind'
export { DOOR_STATES } from './pulsed'

export const KINDS: { readonly [Name in Channel['kind']]: Kind<ChannelOf<Name>> } = {
  switched,
  stepped,
  pulsed,
  paired,
  feed,
}

/** The names of the kinds, in the order in which they are offered. */
export const CHANNEL_KINDS = Object.keys(KINDS) as readonly Channel['kind'][]

/** The record of a channel's kind. */
export const kindOf = (channel: Channel): Kind<Channel> => KINDS[channel.kind] as unknown as Kind<Channel>

/** What a channel understands, each as its maker reads it. */
export function actionsOf(channel: Channel): readonly ActionRow[] {
  const { actions, outputs, position } = kindOf(channel)
  const placed = Boolean(position(channel)?.input)
  return actions
    .filter((candidate) => placed || !candidate.needsPosition)
    .map((candidate) =>
      candidate.output === undefined ? candidate : { ...candidate, words: outputs(channel)[candidate.output]!.words },
    )
}
/** What a maker chooses from, for any source that tells it something. */
export const offeredActions = (channel: Channel): readonly ActionRow[] =>
  actionsOf(channel).filter((candidate) => candidate.offered)
/** An action as a maker of this channel reads it: "up" for `a` of a shutter. */
export const actionWords = (channel: Channel, action: ChannelAction): string =>
  actionsOf(channel).find((candidate) => candidate.action === action)?.words ?? action
export const understands = (channel: Channel, action: ChannelAction): boolean =>
  actionsOf(channel).some((candidate) => candidate.action === action)

/** Highest level of a channel. */
export const topLevel = (channel: Channel): number => kindOf(channel).patterns(channel).length - 1

/** The words that a channel takes on its `set` topic, one by one: "on", "off", "0", "1" … */
export const setWords = (channel: Channel): readonly string[] =>
  actionsOf(channel).flatMap((candidate) => {
    if (!candidate.set) return []
    return candidate.action === 'level'
      ? Array.from({ length: topLevel(channel) + 1 }, (_, level) => String(level))
      : [candidate.action]
  })
/** The same as a person reads them: levels as a range. */
export const setWordsText = (channel: Channel): string =>
  actionsOf(channel)
    .filter((candidate) => candidate.set)
    .map((candidate) => (candidate.action === 'level' ? `0–${topLevel(channel)}` : candidate.action))
    .join(', ')

/** The outputs of a channel, with what each is called. */
export const outputsOf = (channel: Channel): readonly OutputRow[] => kindOf(channel).outputs(channel)
/** How many numbered ones there are; null: a single one without a number. */
export const contactsOf = (channel: Channel): number | null =>
  kindOf(channel).numbered ? outputsOf(channel).length : null

/** "lamp", or "fan.1", "fan.2" … where a kind numbers its outputs: the name of an output in traces and time lines. */
export const outputName = (
  channel: { readonly id: string; readonly kind: Channel['kind'] },
  contact: number,
): string => (KINDS[channel.kind].numbered ? `${channel.id}.${contact + 1}` : channel.id)
/** The channel and the contact (from 0) that such a name means. */
export function readOutputName(name: string): { readonly channel: string; readonly contact: number } {
  const [channel = '', number] = name.split('.')
  return { channel, contact: number === undefined ? 0 : Number(number) - 1 }
}

/** Smart lamps behind it, a hub before it: what only a feed has. */
export const isFeed = (channel: Channel): channel is ChannelOf<'feed'> => channel.kind === 'feed'

/** The input that knows where a channel's door stands; null: nobody knows whether it moved. */
export const positionOf = (channel: Channel): InputId | null => kindOf(channel).position(channel)?.input ?? null

/** What a channel does at power-up. */
export const powerUpOf = (channel: Channel): PowerUp => kindOf(channel).powerUp(channel)

/** A power-up policy that waits for the service or for the clock. */
export type WaitingPowerUp = Extract<PowerUp, { readonly waitMs: number }>
export const waitsAtPowerUp = (powerUp: PowerUp): powerUp is WaitingPowerUp => 'waitMs' in powerUp

/**
 * A change of it goes to the store: it comes up with its last level, by its policy or its second choice, or keeps that
 * in any case (docs/behaviour.md, Power).
 */
export function changesStore(channel: Channel): boolean {
  const policy = powerUpOf(channel)
  const restores = policy.policy === 'last' || (waitsAtPowerUp(policy) && policy.otherwise === 'last')
  return restores || kindOf(channel).keepsLastLevel
}
/** Longest time that it stays on, ms; null: no limit. */
export const limitOf = (channel: Channel): number | null => kindOf(channel).timing(channel).maxOnMs || null
