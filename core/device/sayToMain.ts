import { KINDS } from '../site'
import { log, type DeviceState } from './state'
import type { Command } from './types'

/** What the coprocessor of a pair (mirror.ts) tells its main board: characters of the table that both run. */

/**
 * What else means the same for a channel as the main board's table has it: a level in words, a toggle by what is known.
 */
function sameWords(state: DeviceState, index: number, told: Command): readonly Command[] {
  const { kind, patterns } = state.image.channels[index]!
  const word = (action: Command['action']): Command => ({ action, level: 0 })
  if (told.action === 'toggle') return [told, word(state.channels[index]!.level > 0 ? 'off' : 'on')]
  if (told.action !== 'level') return [told]
  const { saidAs } = KINDS[kind]
  // of several levels only those that have a word of their own can be said by it
  const same = told.level === 0 || patterns.length === saidAs.length ? saidAs[told.level] : null
  return same ? [told, word(same as Command['action'])] : [told]
}

/** A command for a channel of the main board goes there as a character. */
export function sayToChannel(state: DeviceState, index: number, told: Command): void {
  const { chars, channels } = state.image
  const topic = channels[index]!.topic
  if (!state.heard) return log(state, `${topic}: main board not heard`)
  for (const { action, level } of sameWords(state, index, told)) {
    const row = chars.find(
      (candidate) =>
        candidate.on === 'channel' &&
        candidate.index === index &&
        candidate.action === action &&
        (action !== 'level' || candidate.level === level),
    )
    if (row) return void state.out.push({ t: state.now, char: row.char })
  }
  log(state, `${topic}: no character for it`)
}

/** The mode of the main board. */
export function sayMode(state: DeviceState, auto: boolean): void {
  if (!state.heard) return log(state, 'mode: main board not heard')
  const row = state.image.chars.find(
    (candidate) => candidate.on === 'controller' && candidate.action === (auto ? 'auto' : 'manual'),
  )
  if (row) state.out.push({ t: state.now, char: row.char })
  else log(state, 'mode: no character for it')
}
