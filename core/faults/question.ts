import { PLACES, type Place } from '../parts'
import { isFeed, kindOf, type Channel, type Site } from '../site'
import { hasScreen } from './screens'

/** What can be asked of every channel when parts fail. */
export const QUESTIONS = ['on', 'off', 'screen', 'unbidden', 'limit'] as const
export type Question = (typeof QUESTIONS)[number]

export const QUESTION_WORDS: Readonly<Record<Question, string>> = {
  on: 'nobody can turn it on',
  off: 'nobody can turn it off',
  screen: 'a screen lies',
  unbidden: 'it moves by itself',
  limit: 'it stays on past its limit',
}

/** From where a question is asked: who can do something depends on where they stand, what happens does not. */
export const placesOf = (question: Question): readonly Place[] =>
  question === 'on' || question === 'off' ? PLACES : ['here']

/** The longest that a channel is on by its own tables, ms; null: no limit. */
export function limitMs(channel: Channel): number | null {
  if (channel.kind === 'pulsed') return channel.pulseMs
  if (channel.kind === 'paired') return channel.runMs
  return kindOf(channel).timing(channel).maxOnMs || null
}

/** What ends by itself within that is over before anybody looks, ms. */
export const SOON_MS = 120_000

export function endsSoon(channel: Channel): boolean {
  const limit = limitMs(channel)
  return limit !== null && limit <= SOON_MS
}

/**
 * Why a question is not asked of a channel; null: it is. Nothing to say is not the same as nothing wrong.
 */
export function notAsked(site: Site, question: Question, channel: Channel): string | null {
  const limit = limitMs(channel)
  switch (question) {
    case 'on':
      return null
    case 'off':
      if (!kindOf(channel).lasting) return 'it stops by itself'
      return endsSoon(channel) ? `its limit of ${limit! / 1_000} s ends it` : null
    case 'screen':
      if (isFeed(channel)) return 'its lamps report to the hub themselves'
      if (!kindOf(channel).lasting) return 'it does not stay as it is told'
      return hasScreen(site, channel) ? null : 'no screen is told how it is'
    case 'unbidden':
      return isFeed(channel) ? 'a feed is on at all times' : null
    case 'limit':
      return limit === null ? 'it has no limit' : null
  }
}
